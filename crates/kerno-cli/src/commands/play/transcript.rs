//! The lines of a scene, with times.

use std::fmt::Write as _;
use std::io::Write;

use kerno::base::printable;
use serde_json::json;

use super::stage::{Note, Stage, run};
use super::{PlayArgs, clock};
use crate::console::Console;
use crate::error::CliError;

/// Steps in which a scene is played: times are whole hundredths of a second.
const STEP: f64 = 0.01;

/// The lines of a scene, with times.
#[derive(Default)]
pub(super) struct Transcript {
    lines: Vec<Line>,
    end: f64,
}

#[derive(Default)]
struct Line {
    start: f64,
    speaker: Option<String>,
    pages: Vec<Page>,
    cues: Vec<(f64, String)>,
    choices: Vec<String>,
    chosen: Option<(f64, String)>,
}

/// A page of a line.
pub(super) struct Page {
    start: f64,
    /// When all of it is there, and when it is gone.
    full: f64,
    end: f64,
    text: String,
}

impl Transcript {
    /// Plays a scene.
    pub(super) fn of(args: &PlayArgs) -> Result<Self, CliError> {
        let mut transcript = Self::default();
        let end = run(args, STEP, &mut |stage, notes| {
            for (time, note) in notes {
                transcript.note(stage, *time, note);
            }
            Ok(())
        })?;
        transcript.leave(end);
        transcript.end = end;
        Ok(transcript)
    }

    fn note(&mut self, stage: &Stage, time: f64, note: &Note) {
        match note {
            Note::Line => {
                self.leave(time);
                let speaker = stage.player.speaker_name().map(str::to_owned);
                self.lines.push(Line {
                    start: time,
                    speaker,
                    ..Line::default()
                });
                self.page(stage, time);
            }
            Note::Page => {
                self.leave(time);
                self.page(stage, time);
            }
            Note::Stop => {
                if let Some(page) = self.last_page() {
                    page.full = time;
                }
            }
            Note::End => self.leave(time),
            Note::Cue(name) => {
                if let Some(line) = self.lines.last_mut() {
                    line.cues.push((time, name.clone()));
                }
            }
            Note::Choices => {
                let choices = stage.player.choices().into_iter().map(str::to_owned);
                if let Some(line) = self.lines.last_mut() {
                    line.choices = choices.collect();
                }
            }
            Note::Chosen(text) => {
                if let Some(line) = self.lines.last_mut() {
                    line.chosen = Some((time, text.clone()));
                }
            }
        }
    }

    fn last_page(&mut self) -> Option<&mut Page> {
        self.lines.last_mut()?.pages.last_mut()
    }

    /// Ends the page that is shown.
    fn leave(&mut self, time: f64) {
        if let Some(page) = self.last_page().filter(|page| page.end == 0.0) {
            page.end = time;
            if page.full == 0.0 {
                page.full = time;
            }
        }
    }

    /// Begins the page that is shown.
    fn page(&mut self, stage: &Stage, time: f64) {
        let text = page_text(stage);
        if let (Some(line), Some(text)) = (self.lines.last_mut(), text) {
            line.pages.push(Page {
                start: time,
                full: 0.0,
                end: 0.0,
                text,
            });
        }
    }

    /// All pages, each with who speaks.
    pub(super) fn pages(&self) -> impl Iterator<Item = (Option<&str>, &Page)> {
        self.lines.iter().flat_map(|line| {
            let speaker = line.speaker.as_deref();
            // A page of sprites alone says nothing.
            let pages = line.pages.iter().filter(|page| !page.text.is_empty());
            pages.map(move |page| (speaker, page))
        })
    }

    /// Subtitles as `WebVTT`.
    pub(super) fn web_vtt(&self) -> String {
        let mut text = "WEBVTT\n".to_owned();
        for (number, (speaker, page)) in (1..).zip(self.pages()) {
            let (start, end) = (stamp(page.start, '.'), stamp(page.end, '.'));
            let escaped = escaped(&page.text);
            let voice =
                speaker.map_or_else(String::new, |name| format!("<v {}>", escaped_name(name)));
            let _ = write!(text, "\n{number}\n{start} --> {end}\n{voice}{escaped}\n");
        }
        text
    }

    /// Subtitles as `SubRip`.
    pub(super) fn sub_rip(&self) -> String {
        let mut text = String::new();
        for (number, (speaker, page)) in (1..).zip(self.pages()) {
            let (start, end) = (stamp(page.start, ','), stamp(page.end, ','));
            let voice = speaker.map_or_else(String::new, |name| format!("{name}: "));
            // There is no other way to write what parts the times.
            let (voice, said) = (voice.replace("-->", "→"), page.text.replace("-->", "→"));
            let _ = write!(text, "{number}\n{start} --> {end}\n{voice}{said}\n\n");
        }
        text
    }

    pub(super) fn print(&self, out: &mut Console) -> Result<(), CliError> {
        out.asked();
        let lines: Vec<_> = self.lines.iter().map(Line::json).collect();
        out.fields(json!({ "seconds": rounded(self.end), "lines": lines }));
        for line in &self.lines {
            let speaker = line.speaker.as_deref().unwrap_or("–");
            for (number, page) in line.pages.iter().enumerate() {
                let name = if number == 0 { speaker } else { "" };
                let start = clock(page.start);
                let full = clock(page.full);
                let text = page.text.replace('\n', " / ");
                let (name, text) = (printable(name), printable(&text));
                writeln!(out, "{start:>8} – {full:>7}  {name:<14} {text}")?;
            }
            for (time, name) in &line.cues {
                writeln!(
                    out,
                    "{:>8}            cue {}",
                    clock(*time),
                    printable(name)
                )?;
            }
            for choice in &line.choices {
                let chosen = line.chosen.as_ref().filter(|(_, text)| text == choice);
                let mark = match chosen {
                    Some((time, _)) => format!("{:>8}  chosen  ", clock(*time)),
                    None => " ".repeat(18),
                };
                writeln!(out, "{mark}  • {}", printable(choice))?;
            }
        }
        writeln!(out, "{:>8}            end", clock(self.end))?;
        Ok(())
    }
}

impl Line {
    fn json(&self) -> serde_json::Value {
        let pages: Vec<_> = self
            .pages
            .iter()
            .map(|page| {
                json!({
                    "start": rounded(page.start),
                    "full": rounded(page.full),
                    "end": rounded(page.end),
                    "text": page.text,
                })
            })
            .collect();
        let cues: Vec<_> = self
            .cues
            .iter()
            .map(|(time, name)| json!({ "seconds": rounded(*time), "name": name }))
            .collect();
        json!({
            "start": rounded(self.start),
            "speaker": self.speaker,
            "pages": pages,
            "cues": cues,
            "choices": self.choices,
            "chosen": self.chosen.as_ref().map(|(_, text)| text),
        })
    }
}

/// A text as a cue of `WebVTT` has it (its section on cue text).
fn escaped(text: &str) -> String {
    let text = text.replace('&', "&amp;").replace('<', "&lt;");
    text.replace('>', "&gt;")
}

/// A name as the annotation of a voice: on one line.
fn escaped_name(name: &str) -> String {
    let words: Vec<&str> = name.split_whitespace().collect();
    escaped(&words.join(" "))
}

/// The words of the page that is shown, in the lines in which they were written.
pub(super) fn page_text(stage: &Stage) -> Option<String> {
    let speech = stage.player.speech()?;
    let page = speech.page()?;
    let layout = speech.speech().layout();
    let clusters = &layout.clusters()[page.clusters.clone()];
    let (start, end) = (clusters.first()?.start, clusters.last()?.end);
    let text = layout.text()[start as usize..end as usize].replace('\u{fffc}', "");
    let lines = text.lines().map(|line| {
        let words: Vec<&str> = line.split_whitespace().collect();
        words.join(" ")
    });
    let lines: Vec<String> = lines.filter(|line| !line.is_empty()).collect();
    Some(lines.join("\n"))
}

/// Hundredths of a second.
fn rounded(seconds: f64) -> f64 {
    (seconds * 100.0).round() / 100.0
}

/// Hours, minutes, seconds and thousandths, as subtitles have them.
fn stamp(seconds: f64, point: char) -> String {
    let thousandths = (seconds * 1000.0).round() as u64;
    let (whole, rest) = (thousandths / 1000, thousandths % 1000);
    let (hours, minutes, seconds) = (whole / 3600, whole / 60 % 60, whole % 60);
    format!("{hours:02}:{minutes:02}:{seconds:02}{point}{rest:03}")
}
