//! A screen file read into a description.

use std::path::{Path, PathBuf};

use super::records::{
    AnchorRecord, ArrangeRecord, AutoRecord, Datum, ElementRecord, GaugeRecord, LengthRecord,
    NamedAnchor, RectRecord, ScreenRecord, SidesRecord, StyleChangesRecord, ValueRecord,
    WorldRecord,
};
use crate::base::{
    Anchor, Color, Corners, FileError, FileReader, Insets, LineIndex, Offset, Point, Size, Spanned,
    TomlFault, parse,
};
use crate::draw::RectStyle;
use crate::markup::{StyleChange, Value, ValueDeclaration};
use crate::screen::{
    AllowedFinding, Arrangement, Content, Element, Gauge, GaugeFill, IconRow, Length,
    ScreenDescription, ScreenError, SpriteContent, TextContent, Visibility, WorldPlace,
};
use crate::text::LineHeight;

impl ScreenDescription {
    /// Reads a screen file (`docs/screen.md`), but none of the files that it names.
    ///
    /// # Errors
    /// [`ScreenError`] with the line that is wrong.
    pub fn from_file(path: impl AsRef<Path>) -> Result<Self, ScreenError> {
        Self::from_file_through(path, &FileReader::default())
    }

    /// As [`ScreenDescription::from_file`], where `files` says what may be read.
    ///
    /// # Errors
    /// As there.
    pub fn from_file_through(
        path: impl AsRef<Path>,
        files: &FileReader,
    ) -> Result<Self, ScreenError> {
        let path = path.as_ref();
        let text = files.read_text(path).map_err(|source| {
            let path = path.to_owned();
            FileError::Io { path, source }
        })?;
        Reader::new(path, &text).description()
    }

    /// Reads the text of a screen file.
    ///
    /// # Errors
    /// [`ScreenError::File`] with the line that is wrong.
    pub fn from_toml(text: &str) -> Result<Self, ScreenError> {
        let path = Path::new("");
        Reader::new(path, text).description()
    }
}

/// Says where in the file something is wrong.
struct Reader<'a> {
    path: &'a Path,
    text: &'a str,
    lines: LineIndex,
}

impl<'a> Reader<'a> {
    fn new(path: &'a Path, text: &'a str) -> Self {
        Self {
            path,
            text,
            lines: LineIndex::of(text),
        }
    }

    fn fault(&self, TomlFault { line, problem }: TomlFault) -> ScreenError {
        // A text without a file has lines all the same.
        let path = match self.path.as_os_str().is_empty() {
            true => PathBuf::from("screen"),
            false => self.path.to_owned(),
        };
        FileError::line(&path, line, problem).into()
    }

    fn description(&self) -> Result<ScreenDescription, ScreenError> {
        let record: ScreenRecord = parse(self.text).map_err(|fault| self.fault(fault))?;
        let [width, height] = record.design;
        let mut description = ScreenDescription::new(Size::new(width, height));
        description.fit = record.fit.into();
        description.styles = record.styles;
        description.sprites = record.sprites;
        description.strings = record.strings;
        description.language = record.language;
        description.path = self.path.to_owned();
        description.values = record.values.into_iter().map(declaration).collect();
        description.allowed = record
            .allowed
            .into_iter()
            .map(|allowed| AllowedFinding {
                finding: allowed.finding,
                element: allowed.element,
                reason: allowed.reason,
            })
            .collect();
        for record in record.elements {
            description.elements.push(self.element(record)?);
        }
        Ok(description)
    }

    fn element(&self, record: Spanned<ElementRecord>) -> Result<Element, ScreenError> {
        let line = self.lines.line_of(&record.span());
        let record = record.into_inner();
        let entry = Entry {
            name: &record.name,
            line,
            reader: self,
        };
        let content = entry.content(&record)?;
        let measures = |record: Option<LengthRecord>| record.map_or(Length::Auto, length);
        let sides =
            |record: &Option<SidesRecord>| record.as_ref().map_or(Insets::default(), insets);
        let mut element = Element::new(&record.name, content);
        element.arrangement = entry.arrangement(record.arrange, record.columns)?;
        element.visible = entry.visibility(&record)?;
        element.gap = record.gap;
        element.align = record.align.into();
        element.justify = record.justify.into();
        element.anchor = record.anchor.map(anchor);
        element.origin = record.origin.map(anchor);
        element.offset = Offset::new(record.offset[0], record.offset[1]);
        element.width = measures(record.width);
        element.height = measures(record.height);
        element.min_width = measures(record.min_width);
        element.min_height = measures(record.min_height);
        element.max_width = measures(record.max_width);
        element.max_height = measures(record.max_height);
        element.aspect_ratio = record.aspect_ratio;
        element.grow = record.grow;
        element.padding = sides(&record.padding);
        element.margin = sides(&record.margin);
        element.opacity = record.opacity.unwrap_or(1.0);
        element.group = record.fade_as_one;
        element.z = record.z;
        element.clip = record.clip;
        element.rotation = record.rotation;
        element.scale = record.scale.unwrap_or(1.0);
        element.world = record.world.as_ref().map(world);
        element.parent = record.parent;
        element.line = line;
        Ok(element)
    }
}

/// An element of the file at hand.
struct Entry<'a> {
    name: &'a str,
    line: usize,
    reader: &'a Reader<'a>,
}

impl Entry<'_> {
    fn fault<T>(&self, problem: impl std::fmt::Display) -> Result<T, ScreenError> {
        Err(self.reader.fault(TomlFault {
            line: self.line,
            problem: format!("“{}”: {problem}", self.name),
        }))
    }

    fn color(&self, text: &str) -> Result<Color, ScreenError> {
        text.parse().or_else(|error| self.fault(error))
    }

    fn content(&self, record: &ElementRecord) -> Result<Content, ScreenError> {
        let mut contents = Vec::new();
        let changes = self.style_changes(record.style_changes.as_ref())?;
        let text = record.text.as_deref().map(TextContent::markup);
        let key = record.string.as_deref().map(TextContent::key);
        contents.extend([text, key].into_iter().flatten().map(|text| {
            Content::Text(TextContent {
                style: record.style.clone(),
                style_changes: changes.clone(),
                align: record.text_align.into(),
                wrap: record.wrap.into(),
                vertical_align: record.vertical_align.into(),
                overflow: record.overflow.into(),
                max_lines: record.max_lines,
                shrink_to: record.shrink_to,
                keep_room: record.keep_room,
                ..text
            })
        }));
        if (record.style.is_some() || record.style_changes.is_some()) && contents.is_empty() {
            return self.fault("a style is for texts: give it a `text` or a `string`");
        }
        contents.extend(record.sprite.as_ref().map(|name| {
            Content::Sprite(SpriteContent {
                frame_seconds: record.frame_seconds,
                value: record.sprite_value.clone(),
                ..SpriteContent::new(name)
            })
        }));
        contents.extend(record.panel.clone().map(Content::Panel));
        contents.extend(record.tiles.clone().map(Content::Tiles));
        if let Some(rect) = &record.rect {
            contents.push(Content::Rect(self.rect(rect)?));
        }
        if let Some(gauge) = &record.gauge {
            contents.push(Content::Gauge(self.gauge(gauge)?));
        }
        contents.extend(record.icons.as_ref().map(|icons| {
            Content::Icons(IconRow {
                half: icons.half.clone(),
                empty: icons.empty.clone(),
                gap: icons.gap,
                ..IconRow::new(&icons.value, &icons.full, icons.count)
            })
        }));
        contents.extend(record.dialogue.then_some(Content::Dialogue));
        if contents.len() > 1 {
            let all = "text, string, sprite, panel, tiles, rect, gauge, icons, dialogue";
            return self.fault(format!("an element shows one thing at most, of {all}"));
        }
        Ok(contents.pop().unwrap_or_default())
    }

    fn style_changes(
        &self,
        record: Option<&StyleChangesRecord>,
    ) -> Result<StyleChange, ScreenError> {
        let Some(record) = record else {
            return Ok(StyleChange::default());
        };
        let sizes = [
            ("size", record.size),
            ("scale", record.scale),
            ("line-height", record.line_height),
        ];
        for (key, value) in sizes {
            if let Some(value) = value.filter(|value| !(*value > 0.0 && value.is_finite())) {
                return self.fault(format!("the {key} {value} is not above 0"));
            }
        }
        let color = record.color.as_ref().map(|color| self.color(color));
        Ok(StyleChange {
            size: record.size,
            scale: record.scale,
            color: color.transpose()?,
            letter_spacing: record.letter_spacing,
            word_spacing: record.word_spacing,
            line_height: record.line_height.map(LineHeight::Multiple),
            baseline_shift: record.baseline_shift,
            tabular: record.tabular,
            underline: record.underline,
            line_through: record.line_through,
            ..StyleChange::default()
        })
    }

    fn rect(&self, record: &RectRecord) -> Result<RectStyle, ScreenError> {
        let mut style = RectStyle::default();
        if let Some(fill) = &record.fill {
            style.fill = Some(self.color(fill)?);
        }
        if let Some(border) = &record.border {
            style.border = Some((border.width, self.color(&border.color)?));
        }
        style.radii = match record.radius {
            None => Corners::default(),
            Some(SidesRecord::All(radius)) => Corners::all(radius),
            // CSS: top left and bottom right, then the other two.
            Some(SidesRecord::Pairs([one, other])) => Corners {
                top_left: one,
                top_right: other,
                bottom_right: one,
                bottom_left: other,
            },
            Some(SidesRecord::Each([top_left, top_right, bottom_right, bottom_left])) => Corners {
                top_left,
                top_right,
                bottom_right,
                bottom_left,
            },
        };
        Ok(style)
    }

    fn gauge(&self, record: &GaugeRecord) -> Result<Gauge, ScreenError> {
        let fill = match (&record.color, &record.stretched, &record.clipped) {
            (Some(color), None, None) => GaugeFill::Color(self.color(color)?),
            (None, Some(sprite), None) => GaugeFill::Stretched(sprite.clone()),
            (None, None, Some(sprite)) => GaugeFill::Clipped(sprite.clone()),
            _ => {
                return self.fault(
                    "a gauge is filled with one of `color`, `stretched` (a nine-slice sprite) and `clipped` (a sprite)",
                );
            }
        };
        let mut gauge = Gauge::new(&record.value, fill);
        gauge.from = record.from.into();
        gauge.back.clone_from(&record.back);
        gauge.marks.clone_from(&record.marks);
        gauge.inset = record.inset.as_ref().map_or(Insets::default(), insets);
        gauge.follow_seconds = record.follow_seconds;
        gauge.ghost_seconds = record.ghost_seconds.unwrap_or(gauge.ghost_seconds);
        if let Some(ghost) = &record.ghost {
            gauge.ghost = Some(self.color(ghost)?);
        }
        for threshold in &record.thresholds {
            let color = self.color(&threshold.color)?;
            gauge.thresholds.push((threshold.below, color));
        }
        Ok(gauge)
    }

    fn arrangement(
        &self,
        record: ArrangeRecord,
        columns: Option<u16>,
    ) -> Result<Arrangement, ScreenError> {
        match (record, columns) {
            (ArrangeRecord::Grid, Some(columns)) => Ok(Arrangement::Grid(columns)),
            (ArrangeRecord::Grid, None) => self.fault("a grid has a number of `columns`"),
            (_, Some(_)) => self.fault("`columns` are for `arrange = \"grid\"`"),
            (ArrangeRecord::Overlay, None) => Ok(Arrangement::Overlay),
            (ArrangeRecord::Row, None) => Ok(Arrangement::Row),
            (ArrangeRecord::Column, None) => Ok(Arrangement::Column),
            (ArrangeRecord::Wrap, None) => Ok(Arrangement::Wrap),
        }
    }

    fn visibility(&self, record: &ElementRecord) -> Result<Visibility, ScreenError> {
        match (record.visible, &record.show_while, &record.show_unless) {
            (None | Some(true), None, None) => Ok(Visibility::Always),
            (Some(false), None, None) => Ok(Visibility::Never),
            (None, Some(value), None) => Ok(Visibility::While(value.clone())),
            (None, None, Some(value)) => Ok(Visibility::Unless(value.clone())),
            _ => {
                self.fault("one of `visible`, `show-while` and `show-unless` says when it is there")
            }
        }
    }
}

fn declaration((name, record): (String, ValueRecord)) -> ValueDeclaration {
    ValueDeclaration {
        name,
        start: match record.start {
            Datum::Flag(flag) => Value::Flag(flag),
            Datum::Number(number) => Value::Number(number),
            Datum::Text(text) => Value::Text(text),
            Datum::Point([x, y]) => Value::Point(Point::new(x, y)),
        },
        range: record.range,
        ..ValueDeclaration::new("", 0.0)
    }
    .roll_seconds(record.roll_seconds)
}

fn world(record: &WorldRecord) -> WorldPlace {
    WorldPlace {
        value: record.value.clone(),
        scales: record.scales,
        kept_inside: record.kept_inside.as_ref().map(insets),
        pointer: record.pointer.clone(),
        tail: record.tail.clone(),
    }
}

fn length(record: LengthRecord) -> Length {
    match record {
        LengthRecord::Px(pixels) => Length::Px(pixels),
        LengthRecord::Percent(percent) => Length::Percent(percent),
        LengthRecord::Word(AutoRecord::Auto) => Length::Auto,
    }
}

fn insets(record: &SidesRecord) -> Insets {
    match *record {
        SidesRecord::All(all) => Insets::all(all),
        SidesRecord::Pairs([vertical, horizontal]) => Insets::sides(vertical, horizontal),
        SidesRecord::Each([top, right, bottom, left]) => Insets {
            top,
            right,
            bottom,
            left,
        },
    }
}

fn anchor(record: AnchorRecord) -> Anchor {
    let name = match record {
        AnchorRecord::Shares([x, y]) => return Anchor::new(x, y),
        AnchorRecord::Named(name) => name,
    };
    match name {
        NamedAnchor::TopLeft => Anchor::TOP_LEFT,
        NamedAnchor::Top => Anchor::TOP,
        NamedAnchor::TopRight => Anchor::TOP_RIGHT,
        NamedAnchor::Left => Anchor::LEFT,
        NamedAnchor::Center => Anchor::CENTER,
        NamedAnchor::Right => Anchor::RIGHT,
        NamedAnchor::BottomLeft => Anchor::BOTTOM_LEFT,
        NamedAnchor::Bottom => Anchor::BOTTOM,
        NamedAnchor::BottomRight => Anchor::BOTTOM_RIGHT,
    }
}
