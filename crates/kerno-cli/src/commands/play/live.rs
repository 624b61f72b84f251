//! A scene played in the terminal.

use std::io::{BufRead, Write, stdin};
use std::sync::mpsc::{Receiver, TryRecvError, channel};
use std::thread;
use std::time::{Duration, Instant};

use kerno::dialogue::{SceneEvent, SpeechEvent};

use super::PlayArgs;
use super::stage::Stage;
use crate::console::Console;
use crate::error::CliError;

/// Time between two looks at the keys.
const TICK: Duration = Duration::from_millis(16);

/// Plays a scene: letters appear where one reads. Enter goes on, a number and Enter chooses,
/// `q` and Enter ends it.
pub(super) fn play(args: &PlayArgs, out: &mut Console) -> Result<(), CliError> {
    let mut stage = Stage::open(args)?;
    stage.player.set_auto_advance(None);
    out.asked();
    writeln!(
        out,
        "Enter goes on, a number and Enter chooses, q and Enter ends."
    )?;
    let keys = keys();
    let mut last = Instant::now();
    while !stage.player.is_over() {
        let now = Instant::now();
        let seconds = now.duration_since(last).as_secs_f64();
        last = now;
        let mut shown = String::new();
        play_step(&mut stage, seconds, &mut shown)?;
        match keys.try_recv() {
            Ok(line) if line.trim() == "q" => break,
            Ok(line) => press(&mut stage, line.trim(), &mut shown)?,
            Err(TryRecvError::Disconnected) => break,
            Err(TryRecvError::Empty) => {}
        }
        out.write_all(shown.as_bytes())?;
        out.flush()?;
        thread::sleep(TICK);
    }
    writeln!(out)?;
    Ok(())
}

/// Lines that are typed.
fn keys() -> Receiver<String> {
    let (sender, receiver) = channel();
    thread::spawn(move || {
        for line in stdin().lock().lines().map_while(Result::ok) {
            if sender.send(line).is_err() {
                break;
            }
        }
    });
    receiver
}

/// Events, as numbers: the texts are looked up when nobody plays.
enum Happened {
    Line,
    Cluster(usize),
    Choices,
}

fn gather(event: SceneEvent<'_>, into: &mut Vec<Happened>) {
    into.extend(match event {
        SceneEvent::Line { .. } => Some(Happened::Line),
        SceneEvent::Speech(SpeechEvent::Cluster { cluster, .. }) => {
            Some(Happened::Cluster(cluster))
        }
        SceneEvent::Choices => Some(Happened::Choices),
        _ => None,
    });
}

fn play_step(stage: &mut Stage, seconds: f64, shown: &mut String) -> Result<(), CliError> {
    let mut happened = Vec::new();
    stage
        .player
        .advance(seconds, &mut |event| gather(event, &mut happened))?;
    tell(stage, &happened, shown);
    Ok(())
}

fn press(stage: &mut Stage, typed: &str, shown: &mut String) -> Result<(), CliError> {
    let mut happened = Vec::new();
    let mut on = |event: SceneEvent<'_>| gather(event, &mut happened);
    let count = stage.player.choices().len();
    match typed.parse::<usize>() {
        Ok(number) if (1..=count).contains(&number) => stage.player.choose(number - 1, &mut on)?,
        _ if count > 0 => shown.push_str("Type the number of an answer.\n"),
        _ => {
            stage.player.press(&mut on)?;
        }
    }
    tell(stage, &happened, shown);
    Ok(())
}

/// Writes what happened.
fn tell(stage: &Stage, happened: &[Happened], shown: &mut String) {
    for happened in happened {
        match happened {
            Happened::Line => {
                shown.push('\n');
                if let Some(name) = stage.player.speaker_name() {
                    shown.push_str(name);
                    shown.push_str(": ");
                }
            }
            Happened::Cluster(cluster) => {
                let Some(speech) = stage.player.speech() else {
                    continue;
                };
                let layout = speech.speech().layout();
                if let Some(cluster) = layout.clusters().get(*cluster) {
                    let part = &layout.text()[cluster.start as usize..cluster.end as usize];
                    shown.push_str(if part == "\u{fffc}" { "▪" } else { part });
                }
            }
            Happened::Choices => {
                shown.push('\n');
                for (number, text) in (1..).zip(stage.player.choices()) {
                    shown.push_str(&format!("  {number}  {text}\n"));
                }
            }
        }
    }
}
