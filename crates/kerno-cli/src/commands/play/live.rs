//! A scene played in the terminal.

use std::io::{Write, stdout};
use std::time::{Duration, Instant};

use anstyle::{AnsiColor, Color as TerminalColor, RgbColor, Style};
use crossterm::event::{Event, KeyCode, KeyEventKind, KeyModifiers, poll, read};
use crossterm::terminal::{disable_raw_mode, enable_raw_mode, size};
use kerno::base::printable;
use kerno::dialogue::{SceneEvent, SpeechEvent};
use unicode_width::UnicodeWidthStr;

use super::PlayArgs;
use super::stage::Stage;
use crate::error::CliError;

/// Time between two looks at the keys.
const TICK: Duration = Duration::from_millis(16);

/// Columns of a terminal that does not tell how wide it is.
const COLUMNS: u16 = 80;

const DIM: Style = Style::new().dimmed();
const CHOICE: Style = Style::new().fg_color(Some(TerminalColor::Ansi(AnsiColor::Cyan)));

/// Plays a scene: letters appear where one reads. Enter, space or a click of the arrow to the right
/// goes on, a number chooses, `q` or Escape ends it.
pub(super) fn play(args: &PlayArgs) -> Result<(), CliError> {
    let mut stage = Stage::open(args)?;
    stage.player.set_auto_advance(None);
    let keys = Keys::new()?;
    let mut page = Page::new();
    page.line(DIM, "Enter goes on, a number chooses, q ends.");
    let mut last = Instant::now();
    while !stage.player.is_over() {
        let now = Instant::now();
        let seconds = now.duration_since(last).as_secs_f64();
        last = now;
        let mut happened = Vec::new();
        stage
            .player
            .advance(seconds, &mut |event| gather(event, &mut happened))?;
        match keys.next()? {
            Some(Key::End) => break,
            Some(key) => press(&mut stage, key, &mut happened)?,
            None => {}
        }
        page.tell(&stage, &happened);
        page.show()?;
    }
    page.end_line();
    page.show()
}

/// A key that means something.
#[derive(Clone, Copy)]
enum Key {
    On,
    Choose(usize),
    End,
}

/// The keys of the terminal, one by one, for as long as this is there.
struct Keys;

impl Keys {
    fn new() -> Result<Self, CliError> {
        enable_raw_mode()?;
        Ok(Self)
    }

    /// The key that was pressed, if one was in a short while.
    fn next(&self) -> Result<Option<Key>, CliError> {
        if !poll(TICK)? {
            return Ok(None);
        }
        let Event::Key(key) = read()? else {
            return Ok(None);
        };
        let is_interrupt = key.modifiers.contains(KeyModifiers::CONTROL)
            && matches!(key.code, KeyCode::Char('c' | 'd'));
        Ok(match key.code {
            _ if key.kind == KeyEventKind::Release => None,
            _ if is_interrupt => Some(Key::End),
            KeyCode::Enter | KeyCode::Right | KeyCode::Char(' ') => Some(Key::On),
            KeyCode::Esc | KeyCode::Char('q') => Some(Key::End),
            KeyCode::Char(digit) => digit.to_digit(10).map(|digit| Key::Choose(digit as usize)),
            _ => None,
        })
    }
}

impl Drop for Keys {
    fn drop(&mut self) {
        // A terminal that is gone has no keys.
        let _ = disable_raw_mode();
    }
}

/// Events, as numbers: the texts are looked up when nobody plays.
enum Happened {
    Line,
    Cluster(usize),
    Cue(String),
    Stop,
    /// It goes on where it waited.
    On,
    Choices,
    Chosen(String),
}

fn gather(event: SceneEvent<'_>, into: &mut Vec<Happened>) {
    into.extend(match event {
        SceneEvent::Line { .. } => Some(Happened::Line),
        SceneEvent::Speech(SpeechEvent::Cluster { cluster, .. }) => {
            Some(Happened::Cluster(cluster))
        }
        SceneEvent::Cue(name) | SceneEvent::Speech(SpeechEvent::Cue { name, .. }) => {
            Some(Happened::Cue(name.to_owned()))
        }
        SceneEvent::Speech(SpeechEvent::Stop(_)) => Some(Happened::Stop),
        SceneEvent::Choices => Some(Happened::Choices),
        _ => None,
    });
}

fn press(stage: &mut Stage, key: Key, happened: &mut Vec<Happened>) -> Result<(), CliError> {
    let choices = stage.player.choices();
    match key {
        Key::Choose(number) if (1..=choices.len()).contains(&number) => {
            happened.push(Happened::Chosen(choices[number - 1].to_owned()));
            let mut on = |event: SceneEvent<'_>| gather(event, happened);
            stage.player.choose(number - 1, &mut on)?;
        }
        Key::On if choices.is_empty() => {
            happened.push(Happened::On);
            stage.player.press(&mut |event| gather(event, happened))?;
        }
        _ => {}
    }
    Ok(())
}

/// What is written, wrapped at words.
struct Page {
    /// What is still to be shown.
    text: String,
    columns: usize,
    /// The column of the cursor, from 0.
    column: usize,
    /// True if a sign tells that it waits.
    waits: bool,
}

/// Tells that it waits for a key.
const WAITS: &str = " ▼";

impl Page {
    fn new() -> Self {
        let columns = size().map_or(COLUMNS, |(columns, _)| columns.max(20));
        Self {
            text: String::new(),
            columns: columns.into(),
            column: 0,
            waits: false,
        }
    }

    /// Writes a part of a line.
    fn write(&mut self, style: Style, text: &str) {
        let text = printable(text);
        self.text += &format!("{style}{text}{style:#}");
        self.column += text.width();
    }

    fn end_line(&mut self) {
        self.text += "\r\n";
        self.column = 0;
    }

    /// Writes words as a line of their own, or more.
    fn line(&mut self, style: Style, text: &str) {
        for word in text.split_whitespace() {
            self.word(style, word);
        }
        self.end_line();
    }

    /// Writes a word and the space before it, on the next line where this one has no room.
    fn word(&mut self, style: Style, word: &str) {
        let width = word.width();
        if self.column > 0 && self.column + 1 + width > self.columns {
            self.end_line();
        } else if self.column > 0 {
            self.write(style, " ");
        }
        self.write(style, word);
    }

    /// Takes the sign away that tells that it waits.
    fn go_on(&mut self) {
        if std::mem::take(&mut self.waits) {
            let width = WAITS.width();
            self.text += &"\u{8}".repeat(width);
            self.text += &" ".repeat(width);
            self.text += &"\u{8}".repeat(width);
        }
    }

    /// Shows what was written.
    fn show(&mut self) -> Result<(), CliError> {
        if !self.text.is_empty() {
            let mut out = anstream::AutoStream::auto(stdout().lock());
            out.write_all(self.text.as_bytes())?;
            out.flush()?;
            self.text.clear();
        }
        Ok(())
    }

    /// Writes what happened.
    fn tell(&mut self, stage: &Stage, happened: &[Happened]) {
        for happened in happened {
            match happened {
                Happened::Line => {
                    self.end_line();
                    self.end_line();
                    if let Some(name) = stage.player.speaker_name() {
                        self.write(speaker_style(stage).bold(), &format!("{name}:"));
                    }
                }
                Happened::Cluster(cluster) => self.cluster(stage, *cluster),
                Happened::Cue(name) => self.word(DIM, &format!("({name})")),
                Happened::Stop => {
                    self.text += &format!("{DIM}{WAITS}{DIM:#}");
                    self.waits = true;
                }
                Happened::On => self.go_on(),
                Happened::Choices => {
                    self.go_on();
                    self.end_line();
                    for (number, text) in (1..).zip(stage.player.choices()) {
                        self.line(CHOICE, &format!("  {number}  {text}"));
                    }
                    let count = stage.player.choices().len();
                    self.write(DIM, &format!("1 to {count}?"));
                }
                Happened::Chosen(text) => {
                    self.end_line();
                    self.write(CHOICE, &format!("> {text}"));
                }
            }
        }
    }

    /// Writes a cluster; the first of a word goes to the next line where the word has no room.
    fn cluster(&mut self, stage: &Stage, cluster: usize) {
        let Some(speech) = stage.player.speech() else {
            return;
        };
        let layout = speech.speech().layout();
        let clusters = layout.clusters();
        let part = |at: usize| {
            let cluster = clusters.get(at)?;
            layout
                .text()
                .get(cluster.start as usize..cluster.end as usize)
        };
        let is_space = |text: &str| text.chars().all(char::is_whitespace);
        let Some(own) = part(cluster).filter(|own| !is_space(own)) else {
            if part(cluster) == Some("\n") {
                self.end_line();
            }
            return;
        };
        let shown = if own == "\u{fffc}" { "▪" } else { own };
        let begins = cluster == 0 || cluster.checked_sub(1).and_then(part).is_none_or(is_space);
        if !begins {
            return self.write(Style::new(), shown);
        }
        let rest = (cluster..)
            .map_while(part)
            .take_while(|part| !is_space(part));
        let width: usize = rest.map(UnicodeWidthStr::width).sum();
        if self.column > 0 && self.column + 1 + width > self.columns {
            self.end_line();
        } else if self.column > 0 {
            self.write(Style::new(), " ");
        }
        self.write(Style::new(), shown);
    }
}

/// The colour of who speaks.
fn speaker_style(stage: &Stage) -> Style {
    let color = stage.player.speaker_color();
    let color = color.map(|color| RgbColor(color.red, color.green, color.blue));
    Style::new().fg_color(color.map(TerminalColor::Rgb))
}
