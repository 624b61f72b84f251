//! What breaking lines needs to know of each cluster.

use super::lines::{Piece, PieceKind};
use super::prepared::Prepared;
use super::shape::add_widths;
use super::unicode::{is_ascii_line_break, is_line_break};
use super::{Cluster, TextLayout, Wrap};
use crate::base::Insets;

/// The widths of clusters, and what each is to a line.
pub(super) fn find_pieces(layout: &TextLayout, prepared: &mut Prepared) {
    let wraps = layout.options.width.is_some() && layout.options.wrap != Wrap::None;
    let mut pieces = std::mem::take(&mut prepared.pieces);
    pieces.clear();
    pieces.extend(prepared.analysis.breaks.iter().map(|breaks| Piece {
        width: 0.0,
        hanging: 0.0,
        padding: [0.0; 2],
        breaks: *breaks,
        kind: PieceKind::Solid,
    }));
    let runs = prepared.analysis.runs.iter().zip(&prepared.run_glyphs);
    for (run, glyphs) in runs {
        let style = &layout.styles[run.span as usize];
        let unit = style.unit_at(run.face);
        let has_spacing = style.letter_spacing != 0.0 || style.word_spacing != 0.0;
        let glyphs = &prepared.shaped[glyphs.clone()];
        if let Some(sprite) = layout.sprite_of(run.span) {
            pieces[run.clusters.start].width += f64::from(sprite.width());
        }
        add_widths(glyphs, unit, |cluster, width| {
            pieces[cluster].width += width;
        });
        let clusters = &layout.clusters[run.clusters.clone()];
        for (piece, cluster) in pieces[run.clusters.clone()].iter_mut().zip(clusters) {
            piece.kind = kind(cluster, &layout.text, wraps);
            match piece.kind {
                PieceKind::Tab | PieceKind::LineBreak | PieceKind::Hyphen => continue,
                PieceKind::Solid | PieceKind::Space => {}
            }
            if has_spacing {
                let spacing = f64::from(style.letter_spacing);
                if matches!(cluster.part(&layout.text), " " | "\u{a0}") {
                    piece.width += f64::from(style.word_spacing);
                }
                piece.width += spacing;
                piece.hanging += spacing;
            }
        }
        // Kerning before a space is none where the line ends there.
        for pair in glyphs.windows(2) {
            let (before, space) = (&pair[0], &pair[1]);
            let is_space = || pieces[space.cluster as usize].kind == PieceKind::Space;
            if space.is_tied && is_space() && before.attachment.is_none() {
                let kerning = before.advance - i32::from(before.stated);
                pieces[before.last_cluster as usize].hanging += f64::from(kerning) * unit;
            }
        }
    }
    pad(layout, prepared, &mut pieces);
    prepared.pieces = pieces;
}

/// Makes room beside the clusters at both ends of a span that has a plate.
fn pad(layout: &TextLayout, prepared: &Prepared, pieces: &mut [Piece]) {
    if !layout.styles.iter().any(|style| style.plate.is_some()) {
        return;
    }
    for part in prepared.analysis.runs.chunk_by(|a, b| a.span == b.span) {
        let (Some(first), Some(last)) = (part.first(), part.last()) else {
            continue;
        };
        let Some(plate) = &layout.styles[first.span as usize].plate else {
            continue;
        };
        let Insets { left, right, .. } = plate.padding;
        let sides = |is_rtl: bool| if is_rtl { [right, left] } else { [left, right] };
        let before = sides(first.is_rtl())[0];
        let behind = sides(last.is_rtl())[1];
        let start = &mut pieces[first.clusters.start];
        start.padding[0] = before;
        start.width += f64::from(before);
        let end = &mut pieces[last.clusters.end - 1];
        end.padding[1] = behind;
        end.width += f64::from(behind);
    }
}

fn kind(cluster: &Cluster, text: &str, wraps: bool) -> PieceKind {
    let bytes = &text.as_bytes()[cluster.start as usize..cluster.end as usize];
    if let [byte] = bytes {
        return match *byte {
            b'\t' => PieceKind::Tab,
            b' ' if wraps => PieceKind::Space,
            byte if is_ascii_line_break(byte) => PieceKind::LineBreak,
            _ => PieceKind::Solid,
        };
    }
    let text = cluster.part(text);
    match text {
        "\u{ad}" => PieceKind::Hyphen,
        _ if is_line_break(text) => PieceKind::LineBreak,
        "\u{a0}" | "\u{202f}" | "\u{2007}" => PieceKind::Solid,
        _ if wraps && text.chars().all(char::is_whitespace) => PieceKind::Space,
        _ => PieceKind::Solid,
    }
}
