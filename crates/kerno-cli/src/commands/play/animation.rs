//! A scene as moving pictures.

use std::fs;
use std::path::Path;

use kerno::{Canvas, DeviceSize};
use png::{BitDepth, ColorType, Encoder};

use super::PlayArgs;
use super::stage::{bar, run};
use crate::console::Progress;
use crate::error::CliError;

/// A picture of an animation: the part that is other than in the one before.
struct Change {
    left: u32,
    top: u32,
    width: u32,
    height: u32,
    /// Red, green and blue of each pixel.
    bytes: Vec<u8>,
    /// The number of frames for which it is shown.
    frames: u16,
}

/// Plays a scene and shows each picture that is asked for.
fn pictures(
    args: &PlayArgs,
    progress: &Progress,
    each: &mut dyn FnMut(Canvas) -> Result<(), CliError>,
) -> Result<(), CliError> {
    let step = 1.0 / f64::from(args.frame_rate);
    let end = run(args, step, &mut |_, _| Ok(()))?;
    let mut count = 0;
    run(args, step, &mut |stage, _| {
        progress.set((stage.time / step) as usize, (end / step) as usize);
        if stage.time + 1e-9 < args.from {
            return Ok(());
        }
        let mut canvas = stage.draw(args)?;
        count += 1;
        if args.progress_bar {
            bar(&mut canvas, stage.time / end.max(step))?;
        }
        each(canvas)
    })?;
    match count {
        0 => Err(CliError::PastEnd(args.from, end)),
        _ => Ok(()),
    }
}

/// The scene as numbered PNGs in a folder; returns how many.
pub(super) fn numbered(
    args: &PlayArgs,
    folder: &Path,
    progress: &Progress,
) -> Result<usize, CliError> {
    fs::create_dir_all(folder).map_err(|error| CliError::Write(folder.to_owned(), error))?;
    let mut count = 0;
    pictures(args, progress, &mut |canvas| {
        count += 1;
        let png = canvas.to_image().to_png()?;
        args.files
            .write(&folder.join(format!("{count:05}.png")), &png)
    })?;
    Ok(count)
}

/// The scene as an animated PNG; returns it with the number of its pictures.
pub(super) fn animated_png(
    args: &PlayArgs,
    progress: &Progress,
) -> Result<(Vec<u8>, usize), CliError> {
    let mut changes: Vec<Change> = Vec::new();
    let mut before: Option<Canvas> = None;
    pictures(args, progress, &mut |canvas| {
        match change(before.as_ref(), &canvas) {
            Some(change) => changes.push(change),
            None => match changes.last_mut() {
                Some(last) if last.frames < u16::MAX => last.frames += 1,
                _ => {}
            },
        }
        before = Some(canvas);
        Ok(())
    })?;
    let DeviceSize { width, height } = args.window.0;
    let count = changes.len();
    let bytes = encoded((width, height), args.frame_rate, &changes);
    Ok((
        bytes.map_err(|error| CliError::Animation(error.to_string()))?,
        count,
    ))
}

/// The part of a picture that is other than in the one before; none where all is the same.
fn change(before: Option<&Canvas>, now: &Canvas) -> Option<Change> {
    let DeviceSize { width, height } = now.size();
    let (mut left, mut right, mut top, mut bottom) = (width, 0, height, 0);
    match before {
        None => (left, right, top, bottom) = (0, width, 0, height),
        Some(before) => {
            let rows = before.pixels().chunks_exact(width as usize);
            for (y, (old, new)) in rows
                .zip(now.pixels().chunks_exact(width as usize))
                .enumerate()
            {
                let Some(first) = old.iter().zip(new).position(|(old, new)| old != new) else {
                    continue;
                };
                let last = old.iter().zip(new).rposition(|(old, new)| old != new);
                left = left.min(first as u32);
                right = right.max(last.unwrap_or(first) as u32 + 1);
                top = top.min(y as u32);
                bottom = y as u32 + 1;
            }
        }
    }
    if left >= right {
        return None;
    }
    let rows = now.pixels().chunks_exact(width as usize);
    let rows = rows.skip(top as usize).take((bottom - top) as usize);
    let pixels = rows.flat_map(|row| &row[left as usize..right as usize]);
    Some(Change {
        left,
        top,
        width: right - left,
        height: bottom - top,
        bytes: pixels
            .flat_map(|[red, green, blue, _]| [*red, *green, *blue])
            .collect(),
        frames: 1,
    })
}

fn encoded(
    (width, height): (u32, u32),
    frame_rate: u16,
    changes: &[Change],
) -> Result<Vec<u8>, png::EncodingError> {
    let mut bytes = Vec::new();
    let mut encoder = Encoder::new(&mut bytes, width, height);
    encoder.set_color(ColorType::Rgb);
    encoder.set_depth(BitDepth::Eight);
    encoder.set_animated(changes.len().max(1) as u32, 0)?;
    let mut writer = encoder.write_header()?;
    for change in changes {
        writer.set_frame_position(0, 0)?;
        writer.set_frame_dimension(change.width, change.height)?;
        writer.set_frame_position(change.left, change.top)?;
        writer.set_frame_delay(change.frames, frame_rate)?;
        writer.write_image_data(&change.bytes)?;
    }
    writer.finish()?;
    Ok(bytes)
}
