//! From a description to elements that can be arranged: all names are looked up.

use std::collections::BTreeMap;

use super::element::{Content, Element, Length, TextContent, Visibility};
use super::node::{Body, Finder, Node};
use super::text_body::{TextBody, TextParts};
use super::{ScreenDescription, ScreenError};
use crate::atlas::Atlas;
use crate::base::{FileError, Insets, Rect, hint};
use crate::markup::{
    Formats, Forms, LanguageTable, Markup, PSEUDO, StringTables, StyleFile, Template, TextSource,
    VALUE, Value, number_language, plural_rules, pseudo,
};
use crate::text::{LayoutContext, Style};

/// The deepest nesting of elements.
const DEEPEST: usize = 64;

/// The kind of element that texts are, in the `[defaults]` of style files.
const TEXT: &str = "text";

/// Elements that can be arranged.
pub(super) struct Built {
    /// Parents before their children.
    pub(super) nodes: Vec<Node>,
    pub(super) names: BTreeMap<String, usize>,
    pub(super) roots: Vec<usize>,
}

/// Looks up all that a screen names, in a language.
pub(super) fn build(
    (description, styles, strings): (&ScreenDescription, &StyleFile, &StringTables),
    language: &str,
    atlas: &Atlas,
    context: &mut LayoutContext,
) -> Result<Built, ScreenError> {
    check_values(description)?;
    let order = order(description)?;
    let values: Vec<Value> = description.values.iter().map(|v| v.start.clone()).collect();
    let texts = Texts::new((description, styles, strings), language);
    let finder = Finder { description, atlas };
    let mut built = Built {
        nodes: Vec::with_capacity(order.len()),
        names: BTreeMap::new(),
        roots: Vec::new(),
    };
    for element in order {
        check_numbers(description, element)?;
        let body = match &element.content {
            Content::Text(text) => {
                Body::Text(Box::new(texts.body(element, text, &values, context)?))
            }
            _ => finder.body(element, &values)?,
        };
        let parent = element.parent.as_ref().map(|parent| built.names[parent]);
        let index = built.nodes.len();
        built.names.insert(element.name.clone(), index);
        match parent {
            Some(parent) => built.nodes[parent].children.push(index),
            None => built.roots.push(index),
        }
        let (is_there, shown_by) = visibility(description, element, &values)?;
        built.nodes.push(Node {
            element: element.clone(),
            parent,
            children: Vec::new(),
            body,
            rect: Rect::default(),
            is_there,
            shown_by,
            motions: Vec::new(),
            world: finder.world(element, &values)?,
        });
    }
    // As they are painted.
    let heights: Vec<i32> = built.nodes.iter().map(|node| node.element.z).collect();
    built.roots.sort_by_key(|index| heights[*index]);
    for node in &mut built.nodes {
        node.children.sort_by_key(|index| heights[*index]);
    }
    Ok(built)
}

/// Returns whether an element is there, and the value that this depends on.
fn visibility(
    description: &ScreenDescription,
    element: &Element,
    values: &[Value],
) -> Result<(bool, Option<usize>), ScreenError> {
    let index = |name| description.value_index(element, name);
    Ok(match &element.visible {
        Visibility::Always => (true, None),
        Visibility::Never => (false, None),
        Visibility::While(name) => {
            let value = index(name)?;
            (values[value].is_true(), Some(value))
        }
        Visibility::Unless(name) => {
            let value = index(name)?;
            (!values[value].is_true(), Some(value))
        }
    })
}

/// The elements in an order with parents before their children, else as they come.
fn order(description: &ScreenDescription) -> Result<Vec<&Element>, ScreenError> {
    let elements = &description.elements;
    if let Some(last) = elements.get(ScreenDescription::MOST_ELEMENTS) {
        let most = ScreenDescription::MOST_ELEMENTS;
        let problem = format!("a screen has at most {most} elements");
        return Err(description.fault(last, problem));
    }
    let mut names: BTreeMap<&str, usize> = BTreeMap::new();
    for (index, element) in elements.iter().enumerate() {
        if element.name.is_empty() {
            return Err(description.fault(element, "an element needs a name"));
        }
        if names.insert(&element.name, index).is_some() {
            return Err(description.fault(element, "there is an element of this name already"));
        }
    }
    let mut children: Vec<Vec<usize>> = vec![Vec::new(); elements.len()];
    let mut open = Vec::new();
    for (index, element) in elements.iter().enumerate().rev() {
        let Some(parent) = &element.parent else {
            open.push((index, 1));
            continue;
        };
        let Some(parent) = names.get(parent.as_str()) else {
            let near = hint(parent, names.keys().copied());
            let problem = format!("there is no element “{parent}” to be in{near}");
            return Err(description.fault(element, problem));
        };
        children[*parent].push(index);
    }
    let mut order = Vec::with_capacity(elements.len());
    let mut reached = vec![false; elements.len()];
    while let Some((index, depth)) = open.pop() {
        if depth > DEEPEST {
            let problem = format!("elements nest deeper than {DEEPEST}");
            return Err(description.fault(&elements[index], problem));
        }
        reached[index] = true;
        order.push(&elements[index]);
        open.extend(children[index].iter().map(|child| (*child, depth + 1)));
    }
    match reached.iter().position(|reached| !reached) {
        Some(lost) => Err(description.fault(
            &elements[lost],
            "its parents go in a circle: it is in itself",
        )),
        None => Ok(order),
    }
}

fn check_values(description: &ScreenDescription) -> Result<(), ScreenError> {
    let fault = |problem: String| ScreenError::from(FileError::line(&description.path, 0, problem));
    for (index, value) in description.values.iter().enumerate() {
        let name = &value.name;
        if description.values[..index]
            .iter()
            .any(|known| known.name == *name)
        {
            return Err(fault(format!("there are two values “{name}”")));
        }
        if !(0.0..=3600.0).contains(&value.roll_seconds) {
            let seconds = value.roll_seconds;
            return Err(fault(format!(
                "the value “{name}” rolls in {seconds} seconds; it must be 0 to 3600"
            )));
        }
        let Some([least, most]) = value.range else {
            continue;
        };
        let Value::Number(start) = value.start else {
            let kind = value.start.kind();
            return Err(fault(format!(
                "the value “{name}” is {kind} and has no range"
            )));
        };
        if !(least.is_finite() && most.is_finite() && least <= start && start <= most) {
            let problem = format!("the value “{name}” starts at {start}, out of {least} to {most}");
            return Err(fault(problem));
        }
    }
    Ok(())
}

/// Refuses numbers that mean nothing.
fn check_numbers(description: &ScreenDescription, element: &Element) -> Result<(), ScreenError> {
    let fault = |what: &str, number: f32, wanted: &str| {
        Err(description.fault(
            element,
            format!("its {what} is {number}; it must be {wanted}"),
        ))
    };
    let lengths = [
        ("width", element.width),
        ("height", element.height),
        ("min-width", element.min_width),
        ("min-height", element.min_height),
        ("max-width", element.max_width),
        ("max-height", element.max_height),
    ];
    for (what, length) in lengths {
        if let Length::Px(number) | Length::Percent(number) = length
            && !(0.0..=1e6).contains(&number)
        {
            return fault(what, number, "0 to 1000000");
        }
    }
    let sides = |sides: Insets| [sides.top, sides.right, sides.bottom, sides.left];
    for number in sides(element.padding) {
        if !(0.0..=1e6).contains(&number) {
            return fault("padding", number, "0 to 1000000");
        }
    }
    let places = [element.offset.x, element.offset.y, element.rotation];
    for number in sides(element.margin).into_iter().chain(places) {
        if !(-1e6..=1e6).contains(&number) {
            return fault("margin, offset or rotation", number, "-1000000 to 1000000");
        }
    }
    if !(0.0..=1e6).contains(&element.gap) {
        return fault("gap", element.gap, "0 to 1000000");
    }
    if !(0.0..=1e6).contains(&element.grow) {
        return fault("grow", element.grow, "0 to 1000000");
    }
    if !(0.0..=1.0).contains(&element.opacity) {
        return fault("opacity", element.opacity, "0 to 1");
    }
    if !(-1e3..=1e3).contains(&element.scale) {
        return fault("scale", element.scale, "-1000 to 1000");
    }
    match element.aspect_ratio {
        Some(ratio) if !(ratio > 0.0 && ratio <= 1e6) => {
            fault("aspect-ratio", ratio, "above 0, up to 1000000")
        }
        _ => Ok(()),
    }
}

/// Makes the texts of a screen in a language.
struct Texts<'a> {
    description: &'a ScreenDescription,
    styles: &'a StyleFile,
    markup: Markup,
    table: Option<&'a LanguageTable>,
    language: &'a str,
    formats: Formats,
}

/// Reads the texts of a screen in all languages but one, in all their forms: what is wrong in them
/// is told before somebody plays in it. Texts that a language lacks are not missed here.
pub(super) fn check_other_languages(
    (description, styles, strings): (&ScreenDescription, &StyleFile, &StringTables),
    language: &str,
) -> Result<(), ScreenError> {
    let files = (description, styles, strings);
    let others = strings.languages().filter(|other| *other != language);
    let mut read = others.map(|other| read_texts(files, (other, false), &mut Err));
    read.find(Result::is_err).unwrap_or(Ok(()))
}

/// All that is wrong in the texts of a screen, in its first language and in the others.
pub(super) fn unreadable_texts(
    (description, styles, strings): (&ScreenDescription, &StyleFile, &StringTables),
    language: &str,
) -> Vec<ScreenError> {
    let files = (description, styles, strings);
    let mut found = Vec::new();
    let others = strings.languages().filter(|other| *other != language);
    for (language, is_first) in [(language, true)]
        .into_iter()
        .chain(others.map(|other| (other, false)))
    {
        let read = read_texts(files, (language, is_first), &mut |error| {
            found.push(error);
            Ok(())
        });
        found.extend(read.err());
    }
    found
}

/// Reads the texts of a language in all their forms: all of them in the first one, else those of
/// its string table.
fn read_texts(
    (description, styles, strings): (&ScreenDescription, &StyleFile, &StringTables),
    (language, is_first): (&str, bool),
    on_fault: &mut OnFault<'_>,
) -> Result<(), ScreenError> {
    let texts = Texts::new((description, styles, strings), language);
    let has = |content: &TextContent| match &content.source {
        TextSource::Key(key) => texts.table.is_some_and(|table| table.text(key).is_ok()),
        TextSource::Markup(_) => false,
    };
    for (element, content) in texts_of(description) {
        if !is_first && !has(content) {
            continue;
        }
        if let Err(error) = texts.parts(element, content, on_fault) {
            on_fault(error)?;
        }
    }
    Ok(())
}

/// The elements that are texts.
fn texts_of(description: &ScreenDescription) -> impl Iterator<Item = (&Element, &TextContent)> {
    description
        .elements
        .iter()
        .filter_map(|element| match &element.content {
            Content::Text(content) => Some((element, content)),
            _ => None,
        })
}

/// What becomes of a form that can't be read: an error of the whole text, or one that is kept.
type OnFault<'a> = dyn FnMut(ScreenError) -> Result<(), ScreenError> + 'a;

impl<'a> Texts<'a> {
    fn new(
        (description, styles, strings): (&'a ScreenDescription, &'a StyleFile, &'a StringTables),
        language: &'a str,
    ) -> Self {
        Self {
            description,
            styles,
            markup: styles.markup().clone().mark(VALUE),
            table: strings.table(language),
            formats: Formats::new(number_language(language)),
            language,
        }
    }

    /// A text with its layout.
    fn body(
        &self,
        element: &Element,
        content: &TextContent,
        values: &[Value],
        context: &mut LayoutContext,
    ) -> Result<TextBody, ScreenError> {
        let parts = self.parts(element, content, &mut Err)?;
        let declared = &self.description.values;
        let rules = plural_rules(number_language(self.language));
        let mut body = TextBody::new(parts, values, rules.as_ref(), context)?;
        body.keep_room(declared, rules.as_ref(), context)?;
        Ok(body)
    }

    /// Reads all forms of a text.
    fn parts<'c>(
        &self,
        element: &Element,
        content: &'c TextContent,
        on_fault: &mut OnFault<'_>,
    ) -> Result<TextParts<'c>, ScreenError> {
        let style = self.style(element, content)?;
        let declared = &self.description.values;
        let is_key = matches!(content.source, TextSource::Key(_));
        let template = |text: &str| {
            let text = match is_key && self.language == PSEUDO {
                true => pseudo(text),
                false => text.to_owned(),
            };
            Template::read(&text, (&self.markup, &style), declared, &self.formats)
        };
        let (by, named, fault): (_, Vec<(String, &str)>, _) = match &content.source {
            TextSource::Markup(text) => {
                let place = (self.description.path.clone(), element.line);
                (None, vec![(String::new(), text.as_str())], place)
            }
            TextSource::Key(key) => {
                let table = self.table.ok_or_else(|| {
                    let problem = "its text is of a string table, and there is none; name their folder by `strings`";
                    self.description.fault(element, problem)
                })?;
                let text = table.text(key);
                let text = text.map_err(|problem| self.description.fault(element, problem))?;
                let place = (table.path().to_owned(), text.line);
                match &text.forms {
                    Forms::One(text) => (None, vec![(String::new(), text.as_str())], place),
                    Forms::Plural(by, forms) | Forms::Select(by, forms) => {
                        let by = self.description.value_index(element, by)?;
                        let forms = forms
                            .iter()
                            .map(|(name, text)| (name.clone(), text.as_str()));
                        (Some(by), forms.collect(), place)
                    }
                }
            }
        };
        let mut parts = TextParts {
            content,
            forms: Vec::new(),
            names: Vec::new(),
            by,
            is_rtl: self.table.is_some_and(LanguageTable::is_rtl),
        };
        for (name, text) in named {
            match template(text) {
                Ok(form) => {
                    parts.forms.push(form);
                    parts.names.push(name);
                }
                Err(problem) => {
                    let problem = format!("“{}”: {problem}", element.name);
                    on_fault(FileError::line(&fault.0, fault.1, problem).into())?;
                }
            }
        }
        Ok(parts)
    }

    /// The style that a text begins with.
    fn style(&self, element: &Element, content: &TextContent) -> Result<Style, ScreenError> {
        let fault = |problem: String| Err(self.description.fault(element, problem));
        let name = content
            .style
            .as_deref()
            .or_else(|| self.styles.default_style(TEXT));
        let Some(name) = name else {
            return fault(
                "no style is named, and the style file has none for texts under [defaults]"
                    .to_owned(),
            );
        };
        let Some(change) = self.styles.style(name) else {
            let near = hint(name, self.styles.style_names());
            return fault(format!("there is no style “{name}”{near}"));
        };
        let changed = content.style_changes.over(change);
        let Some(mut style) = changed.style() else {
            return fault(format!(
                "the style “{name}” has no face; give it one, or a `base` that has"
            ));
        };
        if let Some(table) = self.table {
            let added = table.add_faces(&mut style, self.styles);
            added.map_err(|problem| self.description.fault(element, problem))?;
        }
        Ok(style)
    }
}
