//! Parts of a text, before any glyph: clusters, runs, places to break.

use icu_properties::props::Script;
use icu_segmenter::options::LineBreakOptions;
use icu_segmenter::{GraphemeClusterSegmenter, LineSegmenter, LineSegmenterBorrowed};

use crate::font::Face;
use crate::text::analysis::scripts::Scripts;
use crate::text::analysis::unicode::{
    is_emoji_modifier, is_ignorable, is_line_break, is_shown_as_emoji, may_be_rtl,
};
use crate::text::bidi::Levels;
use crate::text::measure::lines::Break;
use crate::text::shape::{Run, glyph_or_stand_in, is_control};
use crate::text::span_record::SpanRecord;
use crate::text::{
    Cluster, Direction, LayoutOptions, LineBreak, Style, WhiteSpace, WordBreak, Wrap,
};

/// Parts of a text.
#[derive(Clone, Debug, Default)]
pub(in crate::text) struct Analysis {
    pub(in crate::text) runs: Vec<Run>,
    /// For each cluster.
    pub(in crate::text) breaks: Vec<Break>,
    /// Levels of the paragraphs, each with its first cluster.
    pub(in crate::text) paragraphs: Vec<(usize, u8)>,
    /// True if any of it may run from right to left.
    pub(in crate::text) is_bidirectional: bool,
}

impl Analysis {
    /// That of no text.
    pub(in crate::text) const NOTHING: Self = Self {
        runs: Vec::new(),
        breaks: Vec::new(),
        paragraphs: Vec::new(),
        is_bidirectional: false,
    };
}

/// The longest run: what grows with its length stays bounded.
const LONGEST_RUN: usize = 1024;

/// Finds the clusters of a text and what they are. `levels` is working memory.
pub(in crate::text) fn analyze(
    text: &str,
    spans: (&[SpanRecord], &[Style]),
    options: &LayoutOptions,
    clusters: &mut Vec<Cluster>,
    (analysis, levels): (&mut Analysis, &mut Vec<u8>),
) {
    clusters.clear();
    find_clusters(text, clusters);
    if options.white_space == WhiteSpace::Collapse {
        collapse(text, clusters);
    }
    let Analysis {
        runs,
        breaks,
        paragraphs,
        is_bidirectional,
    } = analysis;
    find_breaks(text, options, clusters, breaks);
    find_levels(text, options.direction, clusters, (levels, paragraphs));
    *is_bidirectional = levels.iter().any(|level| *level != 0);
    find_runs(text, spans, clusters, (levels, breaks), runs);
}

/// Finds the grapheme clusters of a text (UAX #29). Between two ASCII characters there
/// is always a boundary but in CR LF (its rules GB3 and GB9 to `GB9b`), so only what
/// lies around others needs the whole of the rules.
fn find_clusters(text: &str, clusters: &mut Vec<Cluster>) {
    let bytes = text.as_bytes();
    let is_boundary = |at: usize| match bytes.get(at - 1..=at) {
        Some([before, after]) => {
            before.is_ascii() && after.is_ascii() && [*before, *after] != *b"\r\n"
        }
        _ => true,
    };
    clusters.reserve(bytes.len());
    let segmenter = GraphemeClusterSegmenter::new();
    let mut start = 0;
    while start < bytes.len() {
        // As many as are clusters by themselves: the last of them may belong to what
        // comes after.
        let simple = bytes[start..].iter();
        let simple = simple.take_while(|byte| byte.is_ascii() && **byte != b'\r');
        let end = start + simple.count();
        let end = if end < bytes.len() && end > start {
            end - 1
        } else {
            end
        };
        clusters.extend((start as u32..end as u32).map(|at| Cluster::of(at, at + 1)));
        start = end;
        if start == bytes.len() {
            break;
        }
        let mut end = start + 1;
        while !is_boundary(end) {
            end += 1;
        }
        let mut before = start;
        for at in segmenter.segment_str(&text[start..end]).skip(1) {
            clusters.push(Cluster::of(before as u32, (start + at) as u32));
            before = start + at;
        }
        start = end;
    }
}

/// Takes away white space that is not shown (CSS Text, “The White Space Processing
/// Rules”), all of it being spaces: of several in a row all but the first, and those at the
/// ends.
fn collapse(text: &str, clusters: &mut Vec<Cluster>) {
    let is_space = |cluster: &Cluster| cluster.part(text) == " ";
    let mut was_space = true;
    clusters.retain(|cluster| {
        let keeps = !(was_space && is_space(cluster));
        was_space = is_space(cluster);
        keeps
    });
    if clusters.last().is_some_and(is_space) {
        clusters.pop();
    }
}

/// Places where lines may end (UAX #14).
fn find_breaks(text: &str, options: &LayoutOptions, clusters: &[Cluster], breaks: &mut Vec<Break>) {
    breaks.clear();
    breaks.resize(clusters.len(), Break::No);
    // Of all that ends lines the first byte is one of these. Without a way out of the
    // loop, so that many are asked at once.
    let may_end = |byte: u8| matches!(byte, 0xa..=0xd | 0xc2 | 0xe2);
    let has_end = text.bytes().fold(false, |any, byte| any | may_end(byte));
    if options.white_space == WhiteSpace::Keep && has_end {
        let before = clusters.iter().take(clusters.len().saturating_sub(1));
        for (index, cluster) in before.enumerate() {
            let first = text.as_bytes()[cluster.start as usize];
            if may_end(first) && is_line_break(cluster.part(text)) {
                breaks[index + 1] = Break::Must;
            }
        }
    }
    if options.width.is_none() || options.wrap == Wrap::None {
        return;
    }
    let mut index = 0;
    let mut allow = |place: usize| {
        let starts = |index: usize| clusters.get(index).map(|cluster| cluster.start as usize);
        // If all clusters have one byte, it is as many of them on.
        let likely = index + place - starts(index).map_or(place, |start| start.min(place));
        if starts(likely) == Some(place) {
            index = likely;
        }
        while starts(index).is_some_and(|start| start < place) {
            index += 1;
        }
        // Inside a cluster nothing breaks.
        let is_start = starts(index) == Some(place);
        if index > 0 && is_start && breaks[index] == Break::No {
            breaks[index] = Break::Allowed;
        }
    };
    if options.line_break == LineBreak::Anywhere || options.word_break != WordBreak::Normal {
        segmenter(options).segment_str(text).for_each(allow);
        return;
    }
    // Looking its tables up costs as much as a short text: plain ones need none.
    let mut known = None;
    let mut start = 0;
    while start < text.len() {
        let (end, is_plain) = stretch(text.as_bytes(), start);
        if !is_plain {
            let segmenter = known.get_or_insert_with(|| segmenter(options));
            let places = segmenter.segment_str(&text[start..end]);
            places.for_each(|place| allow(start + place));
        }
        allow(end);
        start = end;
    }
}

/// Finds where lines may end by the options' rules.
fn segmenter(options: &LayoutOptions) -> LineSegmenterBorrowed<'static> {
    let mut settings = LineBreakOptions::default();
    settings.strictness = Some(options.line_break.strictness());
    settings.word_option = Some(options.word_break.option());
    #[cfg(feature = "line-break-dictionaries")]
    let segmenter = LineSegmenter::new_dictionary(settings);
    #[cfg(not(feature = "line-break-dictionaries"))]
    let segmenter = LineSegmenter::new_for_non_complex_scripts(settings);
    segmenter
}

/// The end of the stretch of a text that begins at a place, and whether nothing breaks
/// inside. Each ends after a space between an ASCII letter or digit, or a comma or the like
/// that follows one, and another letter: there a line may end (UAX #14, LB18) and what
/// stands before has no say in what follows. In between, letters and digits (LB23, LB25,
/// LB28), what may not begin a line (LB13), and a comma, a colon or an apostrophe between
/// two of them (LB19, LB25, LB29) do not break.
fn stretch(bytes: &[u8], start: usize) -> (usize, bool) {
    let is_letter = |at: usize| bytes.get(at).is_some_and(u8::is_ascii_alphanumeric);
    let is_inner = |byte: u8| matches!(byte, b',' | b'.' | b':' | b';' | b'\'');
    let letters = |from: usize| {
        let mut at = from;
        let is_joint = |at: usize| {
            let is_between = at > from && is_letter(at - 1) && is_letter(at + 1);
            is_between && bytes.get(at).copied().is_some_and(is_inner)
        };
        while is_letter(at) || is_joint(at) {
            at += 1;
        }
        at
    };
    let is_mark = |byte: u8| matches!(byte, b',' | b'.' | b';' | b':' | b'!' | b'?');
    let mut at = start;
    loop {
        let end = letters(at);
        let is_word = end > at;
        let behind = end + usize::from(is_word && bytes.get(end).copied().is_some_and(is_mark));
        let is_cut = is_word
            && bytes.get(behind) == Some(&b' ')
            && bytes.get(behind + 1).is_some_and(u8::is_ascii_alphabetic);
        if is_cut {
            return (behind + 1, at == start);
        }
        if behind >= bytes.len() {
            return (bytes.len(), at == start && is_word);
        }
        at = end + 1;
    }
}

/// Returns whether a text has bytes with which characters begin that may run from right to
/// left (UTF-8): of U+0580 to U+08FF, U+F000 to U+FFFF and from U+10000 on; and, of U+2000
/// to U+2FFF, of those that control direction.
fn has_rtl_lead(text: &str) -> bool {
    let bytes = text.as_bytes();
    // Without a way out of the loop, so that many are asked at once.
    let is_other = |byte: u8| matches!(byte, 0xd6..=0xdf | 0xe0 | 0xef..);
    if bytes.iter().fold(false, |any, byte| any | is_other(*byte)) {
        return true;
    }
    let general = bytes.windows(3).filter(|three| three[0] == 0xe2);
    general
        .into_iter()
        .any(|three| matches!(three[1..], [0x80, 0x8f | 0xaa..=0xae] | [0x81, 0xa6..=0xa9]))
}

/// The embedding level of each cluster (UAX #9), and of each paragraph.
fn find_levels(
    text: &str,
    direction: Direction,
    clusters: &[Cluster],
    (levels, paragraphs): (&mut Vec<u8>, &mut Vec<(usize, u8)>),
) {
    levels.clear();
    paragraphs.clear();
    let base = match direction {
        Direction::Auto => None,
        Direction::LeftToRight => Some(0),
        Direction::RightToLeft => Some(1),
    };
    let is_rtl = || has_rtl_lead(text) && text.chars().any(may_be_rtl);
    if base != Some(1) && !is_rtl() {
        paragraphs.push((0, 0));
        levels.resize(clusters.len(), 0);
        return;
    }
    let found = Levels::of(text, base);
    let mut index = 0;
    for paragraph in &found.paragraphs {
        let own = clusters[index..].iter();
        index += own
            .take_while(|cluster| cluster.start < paragraph.start)
            .count();
        paragraphs.push((index, paragraph.level));
    }
    if paragraphs.is_empty() {
        paragraphs.push((0, base.unwrap_or(0)));
    }
    let mut all = found.iter();
    levels.extend(clusters.iter().map(|cluster| {
        let mut own = all.by_ref().skip_while(|(byte, _)| *byte < cluster.start);
        own.next().map_or(0, |(_, level)| level)
    }));
}

/// Cuts the text into runs of one span, face, script and level.
fn find_runs(
    text: &str,
    (spans, styles): (&[SpanRecord], &[Style]),
    clusters: &[Cluster],
    (levels, breaks): (&[u8], &[Break]),
    runs: &mut Vec<Run>,
) {
    runs.clear();
    let scripts = Scripts::of(text, clusters, levels);
    let (mut span, mut span_end) = (0, spans.first().map_or(0, |first| first.length));
    let mut index = 0;
    while let Some(cluster) = clusters.get(index) {
        if let Some(run) = runs.last_mut().filter(|run| run.span == span as u32)
            && run.face == 0
        {
            let rest = (&clusters[index..], &levels[index..], &breaks[index..]);
            let has_script = |step: usize, script| scripts.is_at(index + step, script);
            let taken = takes(text, run, rest, (&styles[span], span_end), has_script);
            if taken > 0 {
                index += taken;
                run.clusters.end = index;
                run.end = clusters[index - 1].end;
                continue;
            }
        }
        while cluster.start as usize >= span_end && span + 1 < spans.len() {
            span += 1;
            span_end += spans[span].length;
        }
        let part = cluster.part(text);
        let style = &styles[span];
        // Tabs have runs of their own: how wide they are depends on where they stand. So
        // have lines that end whatever stands there: nothing reaches into the next one.
        let is_tab = |start: u32| text.as_bytes()[start as usize] == b'\t';
        let begins_line = breaks[index] == Break::Must;
        let changes = |run: &Run| begins_line || is_tab(run.start) != is_tab(cluster.start);
        let first = part.chars().next().unwrap_or(' ');
        let script = scripts.at(index);
        let last = runs.last_mut();
        let before = last.as_ref().filter(|run| run.span == span as u32);
        let face = face_for(style, part, before.map(|run| run.face));
        if let Some(run) = last {
            let is_same = run.span == span as u32
                && run.face == face
                && run.level == levels[index]
                && !changes(run)
                && run.script == script;
            let length = run.clusters.len();
            let is_full = length >= LONGEST_RUN * 2 || (length >= LONGEST_RUN && first == ' ');
            if is_same && !is_full {
                run.clusters.end = index + 1;
                run.end = cluster.end;
                index += 1;
                continue;
            }
        }
        runs.push(Run {
            clusters: index..index + 1,
            start: cluster.start,
            end: cluster.end,
            span: span as u32,
            face,
            script,
            level: levels[index],
        });
        index += 1;
    }
}

/// The number of clusters of single ASCII characters that a run in the first face of its style
/// takes without more ado.
fn takes(
    text: &str,
    run: &Run,
    (clusters, levels, breaks): (&[Cluster], &[u8], &[Break]),
    (style, span_end): (&Style, usize),
    has_script: impl Fn(usize, Script) -> bool,
) -> usize {
    let bytes = text.as_bytes();
    if bytes[run.start as usize] == b'\t' {
        return 0;
    }
    let most = LONGEST_RUN.saturating_sub(run.clusters.len());
    let rest = clusters
        .iter()
        .zip(levels)
        .zip(breaks)
        .take(most)
        .enumerate();
    let own = rest.take_while(|(step, ((cluster, level), breaks))| {
        let start = cluster.start as usize;
        let byte = bytes[start];
        byte.is_ascii()
            && cluster.end - cluster.start == 1
            && has_script(*step, run.script)
            && byte != b'\t'
            && start < span_end
            && **level == run.level
            && **breaks != Break::Must
            && (style.fallback.is_empty() || style.face.glyph(char::from(byte)).is_some())
    });
    own.count()
}

/// The first face that has all of a cluster, so that a mark never leaves its base:
/// 0 for the style's own, then its fallbacks. What has no glyph stays with what is
/// before it.
fn face_for(style: &Style, cluster: &str, before: Option<u16>) -> u16 {
    if style.fallback.is_empty() || is_control(cluster) {
        return before.unwrap_or(0);
    }
    let has_all = |face: &u16| {
        let face = style.face_at(*face);
        cluster
            .chars()
            .all(|c| is_ignorable(c) || has_or_makes(face, c))
    };
    let faces = 0..=style.fallback.len() as u16;
    let is_blank = matches!(cluster, " " | "\u{a0}" | "\u{202f}");
    // A space belongs to the letters before it, not to emoji.
    let before = before.filter(|face| !is_blank || !style.face_at(*face).has_color_glyphs());
    if is_blank && before.as_ref().is_some_and(has_all) {
        return before.unwrap_or(0);
    }
    let in_color = |face: &u16| {
        let (face, base) = (style.face_at(*face), cluster.chars().next());
        let glyph = base.and_then(|base| face.glyph(base));
        glyph.is_some_and(|glyph| face.is_color_glyph(glyph))
    };
    // UTS #51, “Presentation Style”: emoji from faces with colours first, what is asked for
    // as text from the others.
    if let Some(is_emoji) = emoji_presentation(cluster)
        && let Some(face) = (faces.clone()).find(|face| has_all(face) && in_color(face) == is_emoji)
    {
        return face;
    }
    let has_base = |face: &u16| {
        let base = cluster.chars().next();
        base.is_some_and(|base| style.face_at(*face).glyph(base).is_some())
    };
    let makes_all = |face: &u16| {
        let mut characters = cluster.chars();
        characters.all(|c| glyph_or_stand_in(style.face_at(*face), c).is_some())
    };
    faces
        .clone()
        .find(has_all)
        .or_else(|| faces.clone().find(has_base))
        .or_else(|| faces.clone().find(makes_all))
        .unwrap_or(0)
}

/// Returns whether a cluster is shown as emoji, or as text; `None` for what is neither said of.
fn emoji_presentation(cluster: &str) -> Option<bool> {
    if cluster.is_ascii() {
        return None;
    }
    let base = cluster.chars().next()?;
    match cluster.chars().nth(1) {
        Some('\u{fe0e}') => Some(false),
        Some('\u{fe0f}') => Some(true),
        Some('\u{20e3}') => None,
        next => (is_shown_as_emoji(base) || next.is_some_and(is_emoji_modifier)).then_some(true),
    }
}

/// Returns whether a face has a character, or a space of its own from which that is made. The
/// ideographic space belongs to the letters around it: a face that has it goes first.
fn has_or_makes(face: &Face, character: char) -> bool {
    match character {
        '\u{3000}' => face.glyph(character).is_some(),
        _ => glyph_or_stand_in(face, character).is_some(),
    }
}
