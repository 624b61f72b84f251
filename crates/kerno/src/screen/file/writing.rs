//! A description written as a screen file.

use super::records::{
    AlignRecord, AllowedRecord, AnchorRecord, ArrangeRecord, BorderRecord, Datum, ElementRecord,
    FitRecord, GaugeRecord, IconsRecord, JustifyRecord, LengthRecord, OverflowRecord, RectRecord,
    ScreenRecord, SideRecord, SidesRecord, StyleChangesRecord, TextAlignRecord, ThresholdRecord,
    ValueRecord, VerticalAlignRecord, WorldRecord, WrapRecord,
};
use crate::base::{Anchor, Corners, FileError, Insets, Spanned};
use crate::draw::RectStyle;
use crate::markup::{StyleChange, TextSource, Value, ValueDeclaration};
use crate::screen::{
    Arrangement, Content, Element, Gauge, GaugeFill, IconRow, Length, ScreenDescription,
    ScreenError, TextContent, Visibility, WorldPlace,
};
use crate::text::LineHeight;

impl ScreenDescription {
    /// Writes the screen as a file: read again, it is the same.
    ///
    /// # Errors
    /// [`ScreenError::File`] for what files have no word for: a text aligned by a baseline of
    /// its own, or changes of its style to the face, the effects or the plate.
    pub fn to_toml(&self) -> Result<String, ScreenError> {
        let elements = self.elements.iter().map(|element| {
            let record = record(element)
                .ok_or_else(|| self.fault(element, "files have no word for one of its settings"))?;
            Ok(Spanned::new(0..0, record))
        });
        let record = ScreenRecord {
            design: [self.design.width, self.design.height],
            fit: FitRecord::of(self.fit).unwrap_or_default(),
            styles: self.styles.clone(),
            sprites: self.sprites.clone(),
            strings: self.strings.clone(),
            language: self.language.clone(),
            values: {
                let own = self.values.iter().filter(|value| !value.is_own);
                own.map(value).collect()
            },
            allowed: self
                .allowed
                .iter()
                .map(|allowed| AllowedRecord {
                    finding: allowed.finding.clone(),
                    element: allowed.element.clone(),
                    reason: allowed.reason.clone(),
                })
                .collect(),
            elements: elements.collect::<Result<_, ScreenError>>()?,
        };
        let written = toml::to_string(&record);
        Ok(written.map_err(|error| FileError::line(&self.path, 0, error.to_string()))?)
    }
}

fn value(declaration: &ValueDeclaration) -> (String, ValueRecord) {
    let record = ValueRecord {
        start: match &declaration.start {
            Value::Number(number) => Datum::Number(*number),
            Value::Text(text) => Datum::Text(text.clone()),
            Value::Flag(flag) => Datum::Flag(*flag),
            Value::Point(point) => Datum::Point([point.x, point.y]),
        },
        range: declaration.range,
        roll_seconds: declaration.roll_seconds,
    };
    (declaration.name.clone(), record)
}

/// The record of an element; none where files have no word for something in it.
fn record(element: &Element) -> Option<ElementRecord> {
    let mut record = ElementRecord {
        name: element.name.clone(),
        parent: element.parent.clone(),
        gap: element.gap,
        align: AlignRecord::of(element.align)?,
        justify: JustifyRecord::of(element.justify)?,
        padding: sides(element.padding),
        clip: element.clip,
        anchor: element.anchor.map(anchor),
        origin: element.origin.map(anchor),
        offset: [element.offset.x, element.offset.y],
        width: length(element.width),
        height: length(element.height),
        min_width: length(element.min_width),
        min_height: length(element.min_height),
        max_width: length(element.max_width),
        max_height: length(element.max_height),
        aspect_ratio: element.aspect_ratio,
        grow: element.grow,
        margin: sides(element.margin),
        opacity: (element.opacity != 1.0).then_some(element.opacity),
        fade_as_one: element.group,
        z: element.z,
        rotation: element.rotation,
        scale: (element.scale != 1.0).then_some(element.scale),
        world: element.world.as_ref().map(world),
        ..ElementRecord::default()
    };
    match element.arrangement {
        Arrangement::Overlay => {}
        Arrangement::Row => record.arrange = ArrangeRecord::Row,
        Arrangement::Column => record.arrange = ArrangeRecord::Column,
        Arrangement::Wrap => record.arrange = ArrangeRecord::Wrap,
        Arrangement::Grid(columns) => {
            record.arrange = ArrangeRecord::Grid;
            record.columns = Some(columns);
        }
    }
    match &element.visible {
        Visibility::Always => {}
        Visibility::Never => record.visible = Some(false),
        Visibility::While(value) => record.show_while = Some(value.clone()),
        Visibility::Unless(value) => record.show_unless = Some(value.clone()),
    }
    content(&element.content, &mut record)?;
    Some(record)
}

fn content(content: &Content, record: &mut ElementRecord) -> Option<()> {
    match content {
        Content::None => {}
        Content::Text(own) => text(own, record)?,
        Content::Sprite(sprite) => {
            record.sprite = Some(sprite.name.clone());
            record.frame_seconds = sprite.frame_seconds;
            record.sprite_value.clone_from(&sprite.value);
        }
        Content::Panel(sprite) => record.panel = Some(sprite.clone()),
        Content::Tiles(sprite) => record.tiles = Some(sprite.clone()),
        Content::Rect(style) => record.rect = Some(rect(style)),
        Content::Gauge(own) => record.gauge = Some(gauge(own)?),
        Content::Icons(own) => record.icons = Some(icons(own)),
        Content::Dialogue => record.dialogue = true,
    }
    Some(())
}

fn text(text: &TextContent, record: &mut ElementRecord) -> Option<()> {
    match &text.source {
        TextSource::Markup(text) => record.text = Some(text.clone()),
        TextSource::Key(key) => record.string = Some(key.clone()),
    }
    record.style.clone_from(&text.style);
    record.style_changes = style_changes(&text.style_changes)?;
    record.text_align = TextAlignRecord::of(text.align)?;
    record.wrap = WrapRecord::of(text.wrap)?;
    record.vertical_align = VerticalAlignRecord::of(text.vertical_align)?;
    record.overflow = OverflowRecord::of(text.overflow)?;
    record.max_lines = text.max_lines;
    record.shrink_to = text.shrink_to;
    record.keep_room = text.keep_room;
    Some(())
}

/// Changes of a style; none within where there are none.
fn style_changes(change: &StyleChange) -> Option<Option<StyleChangesRecord>> {
    let record = StyleChangesRecord {
        size: change.size,
        scale: change.scale,
        color: change.color.map(|color| color.to_string()),
        letter_spacing: change.letter_spacing,
        word_spacing: change.word_spacing,
        line_height: match change.line_height {
            None => None,
            Some(LineHeight::Multiple(times)) => Some(times),
            Some(_) => return None,
        },
        baseline_shift: change.baseline_shift,
        tabular: change.tabular,
        underline: change.underline,
        line_through: change.line_through,
    };
    let has_words = change.face.is_none()
        && change.fallback.is_none()
        && change.effects.is_none()
        && change.plate.is_none()
        && change.edges.is_none();
    has_words.then(|| (record != StyleChangesRecord::default()).then_some(record))
}

fn world(place: &WorldPlace) -> WorldRecord {
    WorldRecord {
        value: place.value.clone(),
        scales: place.scales,
        // All sides, where they are 0 as well.
        kept_inside: place.kept_inside.map(|inside| {
            SidesRecord::Each([inside.top, inside.right, inside.bottom, inside.left])
        }),
        pointer: place.pointer.clone(),
        tail: place.tail.clone(),
    }
}

fn rect(style: &RectStyle) -> RectRecord {
    let Corners {
        top_left,
        top_right,
        bottom_right,
        bottom_left,
    } = style.radii;
    let radii = [top_left, top_right, bottom_right, bottom_left];
    RectRecord {
        fill: style.fill.map(|color| color.to_string()),
        border: style.border.map(|(width, color)| BorderRecord {
            width,
            color: color.to_string(),
        }),
        radius: each(radii),
    }
}

fn gauge(gauge: &Gauge) -> Option<GaugeRecord> {
    let (color, stretched, clipped) = match &gauge.fill {
        GaugeFill::Color(color) => (Some(color.to_string()), None, None),
        GaugeFill::Stretched(sprite) => (None, Some(sprite.clone()), None),
        GaugeFill::Clipped(sprite) => (None, None, Some(sprite.clone())),
    };
    Some(GaugeRecord {
        value: gauge.value.clone(),
        color,
        stretched,
        clipped,
        from: SideRecord::of(gauge.from)?,
        back: gauge.back.clone(),
        marks: gauge.marks.clone(),
        inset: sides(gauge.inset),
        follow_seconds: gauge.follow_seconds,
        ghost: gauge.ghost.map(|color| color.to_string()),
        ghost_seconds: Some(gauge.ghost_seconds),
        thresholds: gauge
            .thresholds
            .iter()
            .map(|(below, color)| ThresholdRecord {
                below: *below,
                color: color.to_string(),
            })
            .collect(),
    })
}

fn icons(icons: &IconRow) -> IconsRecord {
    IconsRecord {
        value: icons.value.clone(),
        full: icons.full.clone(),
        half: icons.half.clone(),
        empty: icons.empty.clone(),
        count: icons.count,
        gap: icons.gap,
    }
}

fn length(length: Length) -> Option<LengthRecord> {
    match length {
        Length::Auto => None,
        Length::Px(pixels) => Some(LengthRecord::Px(pixels)),
        Length::Percent(percent) => Some(LengthRecord::Percent(percent)),
    }
}

fn sides(insets: Insets) -> Option<SidesRecord> {
    each([insets.top, insets.right, insets.bottom, insets.left])
}

/// Four numbers, or one where all are alike; none where they are 0.
fn each(numbers: [f32; 4]) -> Option<SidesRecord> {
    match numbers.iter().all(|number| *number == numbers[0]) {
        true => (numbers[0] != 0.0).then_some(SidesRecord::All(numbers[0])),
        false => Some(SidesRecord::Each(numbers)),
    }
}

fn anchor(anchor: Anchor) -> AnchorRecord {
    AnchorRecord::Shares([anchor.x, anchor.y])
}
