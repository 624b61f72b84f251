//! The packer for rectangles that are all known: onto as few and as small pages
//! as it finds.

use std::collections::BTreeMap;

use super::TexelRect;

/// Options for packing rectangles on pages.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct PackingOptions {
    /// The largest side of a page, in texels, 1 to 16384. Default 4096.
    pub largest_side: u16,
    /// Free texels on every side of every rectangle. Default 1.
    pub padding: u16,
    /// True if neighbours share the padding between them, as masks may, whose padding is
    /// empty. Default no.
    pub share_padding: bool,
    /// True if sides of pages have to be powers of two. Default no.
    pub power_of_two: bool,
    /// True if rectangles may lie on their side, turned by a quarter. Default no.
    pub may_rotate: bool,
}

crate::base::setters! {
    PackingOptions {
        largest_side: u16,
        padding: u16,
        share_padding: bool,
        power_of_two: bool,
        may_rotate: bool,
    }
}

impl PackingOptions {
    /// The largest side that a page may really have.
    pub(crate) fn largest_page(&self) -> u16 {
        match self.largest_side.checked_ilog2() {
            Some(power) if self.power_of_two => 1 << power,
            _ => self.largest_side,
        }
    }

    /// The padding that is counted to the page as a whole, at its left and its top.
    fn page_padding(&self) -> u16 {
        if self.share_padding { self.padding } else { 0 }
    }

    /// The padding that is counted to a rectangle, left and right together.
    fn own_padding(&self) -> Option<u16> {
        match self.share_padding {
            true => Some(self.padding),
            false => self.padding.checked_mul(2),
        }
    }
}

impl Default for PackingOptions {
    fn default() -> Self {
        Self {
            largest_side: 4096,
            padding: 1,
            share_padding: false,
            power_of_two: false,
            may_rotate: false,
        }
    }
}

/// The place of a packed rectangle.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Packed {
    /// Index of the page.
    pub page: u32,
    /// Its rectangle on the page, without the padding; rotated ones have width and height
    /// exchanged.
    pub texels: TexelRect,
    /// True if it lies on its side.
    pub is_rotated: bool,
}

/// The places of all packed rectangles.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Packing {
    /// Width and height of each page, in texels.
    pub pages: Vec<(u16, u16)>,
    /// One for each rectangle, in the order they were given.
    pub places: Vec<Packed>,
}

impl Packing {
    /// Packs rectangles (width and height in texels, each 1 or more). `None` where
    /// one of them, padding included, fits no page.
    ///
    /// Several page widths and two rules of choice are tried, and what takes the
    /// least area is kept. The same rectangles in the same order give the same
    /// packing.
    pub fn of(sizes: &[(u16, u16)], options: &PackingOptions) -> Option<Self> {
        let items = Item::all(sizes, options)?;
        let rules = [Rule::Tallest, Rule::Widest];
        // That they may be turned doesn't say that it helps.
        let may_rotate: &[bool] = if options.may_rotate {
            &[false, true]
        } else {
            &[false]
        };
        let tries = widths(&items, options).into_iter().flat_map(|width| {
            let with_rules = rules.into_iter().map(move |rule| (width, rule));
            with_rules.flat_map(|(width, rule)| {
                may_rotate
                    .iter()
                    .map(move |may_rotate| (width, rule, *may_rotate))
            })
        });
        tries
            .map(|(width, rule, may_rotate)| {
                let options = PackingOptions {
                    may_rotate,
                    ..*options
                };
                packed(&items, width, rule, &options)
            })
            .min_by_key(|packing| (packing.pages.len(), packing.area()))
            .or_else(|| Some(Self::default()))
    }

    /// Texels of all pages.
    pub fn area(&self) -> u64 {
        let area = |page: &(u16, u16)| u64::from(page.0) * u64::from(page.1);
        self.pages.iter().map(area).sum()
    }
}

/// A rectangle with its padding.
#[derive(Clone, Copy)]
struct Item {
    index: usize,
    width: u16,
    height: u16,
    is_rotated: bool,
}

impl Item {
    /// Every rectangle as it comes, or on its side where only that fits.
    fn all(sizes: &[(u16, u16)], options: &PackingOptions) -> Option<Vec<Self>> {
        let most = options.largest_page().checked_sub(options.page_padding())?;
        let border = options.own_padding()?;
        let item = |(index, &(width, height)): (usize, &(u16, u16))| {
            let (width, height) = (width.checked_add(border)?, height.checked_add(border)?);
            let fits = width <= most && height <= most && width > border && height > border;
            fits.then_some(Self {
                index,
                width,
                height,
                is_rotated: false,
            })
        };
        sizes.iter().enumerate().map(item).collect()
    }

    fn turned(self) -> Self {
        Self {
            width: self.height,
            height: self.width,
            is_rotated: !self.is_rotated,
            ..self
        }
    }
}

/// The rectangle that goes into a gap.
#[derive(Clone, Copy, PartialEq)]
enum Rule {
    /// The tallest that fits.
    Tallest,
    /// The widest that fits.
    Widest,
}

/// The number of page widths that are tried beside each other.
const TRIES: u32 = 12;

/// The number of rectangles from which on it is a third of that: they leave little to gain.
const MANY: usize = 2000;

/// The page widths to try: about as wide as high.
fn widths(items: &[Item], options: &PackingOptions) -> Vec<u16> {
    let page_padding = u32::from(options.page_padding());
    let most = u32::from(options.largest_page()).saturating_sub(page_padding);
    let area: u64 = items
        .iter()
        .map(|item| u64::from(item.width) * u64::from(item.height))
        .sum();
    let widest = items
        .iter()
        .map(|item| u32::from(item.width))
        .max()
        .unwrap_or(1);
    if options.power_of_two {
        let powers = (0..15).map(|power| 1_u32 << power);
        return powers
            .filter_map(|side| side.checked_sub(page_padding))
            .filter(|side| *side >= widest && *side <= most)
            .map(|side| side as u16)
            .collect();
    }
    let square = ((area as f64).sqrt() as u32 + 1).clamp(widest, most);
    let pace = if items.len() < MANY { 1 } else { 3 };
    let mut widths: Vec<u16> = (0..TRIES)
        .step_by(pace)
        .map(|step| (square * (TRIES + step) / (TRIES + TRIES / 2)).clamp(widest, most) as u16)
        .collect();
    widths.push(square as u16);
    widths.dedup();
    widths
}

/// Rectangles that wait, to be asked for the best one for a gap.
struct Waiting {
    rule: Rule,
    /// By the measure that counts first, then the other; both the larger the
    /// better.
    sorted: BTreeMap<(u16, u16), Vec<Item>>,
    may_rotate: bool,
    placed: Vec<bool>,
    left: usize,
}

impl Waiting {
    fn new(items: &[Item], rule: Rule, may_rotate: bool) -> Self {
        let mut waiting = Self {
            rule,
            sorted: BTreeMap::new(),
            may_rotate,
            placed: vec![false; items.len()],
            left: items.len(),
        };
        // From the last to the first, so that the first is taken first.
        for item in items.iter().rev() {
            waiting.push(*item);
            if may_rotate && item.width != item.height {
                waiting.push(item.turned());
            }
        }
        waiting
    }

    fn push(&mut self, item: Item) {
        let key = match self.rule {
            Rule::Tallest => (item.height, item.width),
            Rule::Widest => (item.width, item.height),
        };
        self.sorted.entry(key).or_default().push(item);
    }

    /// Takes out the best rectangle of at most `width` by `height`.
    fn take(&mut self, width: u16, height: u16) -> Option<Item> {
        let (first, second) = match self.rule {
            Rule::Tallest => (height, width),
            Rule::Widest => (width, height),
        };
        let key = self.best(first, second)?;
        let list = self.sorted.get_mut(&key)?;
        let item = list.pop()?;
        if list.is_empty() {
            self.sorted.remove(&key);
        }
        self.placed[item.index] = true;
        self.left -= 1;
        Some(item)
    }

    /// The largest key whose parts are no larger than these, once what has been
    /// placed on its side is swept away.
    fn best(&mut self, first: u16, second: u16) -> Option<(u16, u16)> {
        let mut from = (first, second);
        loop {
            let (&key, _) = self.sorted.range(..=from).next_back()?;
            if key.1 > second {
                // The next one with this first part, or the next first part.
                from = (key.0, second);
                continue;
            }
            if self.may_rotate {
                let placed = &self.placed;
                let list = self.sorted.get_mut(&key)?;
                list.retain(|item| !placed[item.index]);
                if list.is_empty() {
                    self.sorted.remove(&key);
                    continue;
                }
            }
            return Some(key);
        }
    }
}

/// A level stretch of what is filled.
#[derive(Clone, Copy)]
struct Level {
    x: u16,
    width: u16,
    y: u16,
}

/// Packs onto pages of one width: into the lowest gap goes the best rectangle
/// that fits it; a gap that none fits is given up.
fn packed(items: &[Item], width: u16, rule: Rule, options: &PackingOptions) -> Packing {
    let mut packing = Packing {
        pages: Vec::new(),
        places: vec![Packed::default(); items.len()],
    };
    let mut waiting = Waiting::new(items, rule, options.may_rotate);
    let border = options.own_padding().unwrap_or(0);
    let page_padding = options.page_padding();
    while waiting.left > 0 {
        let page = packing.pages.len() as u32;
        let (right, bottom) = fill_page(&mut waiting, width, options, |item, x, y| {
            packing.places[item.index] = Packed {
                page,
                texels: TexelRect {
                    x: x + options.padding,
                    y: y + options.padding,
                    width: item.width - border,
                    height: item.height - border,
                },
                is_rotated: item.is_rotated,
            };
        });
        let (right, bottom) = (right + page_padding, bottom + page_padding);
        packing.pages.push(if options.power_of_two {
            (right.next_power_of_two(), bottom.next_power_of_two())
        } else {
            (right, bottom)
        });
    }
    packing
}

/// Fills a page; returns how much of it is used, to the right and down.
fn fill_page(
    waiting: &mut Waiting,
    width: u16,
    options: &PackingOptions,
    mut place: impl FnMut(Item, u16, u16),
) -> (u16, u16) {
    let height = options
        .largest_page()
        .saturating_sub(options.page_padding());
    let mut levels = vec![Level { x: 0, width, y: 0 }];
    let (mut right, mut bottom) = (0, 0);
    while waiting.left > 0 {
        let Some((at, level)) = levels
            .iter()
            .copied()
            .enumerate()
            .min_by_key(|(_, level)| level.y)
        else {
            break;
        };
        if level.y >= height {
            break;
        }
        let neighbour = |index: Option<usize>| {
            let level = index.and_then(|index| levels.get(index));
            level.map_or(height, |level| level.y)
        };
        let (left_y, right_y) = (neighbour(at.checked_sub(1)), neighbour(Some(at + 1)));
        let Some(item) = waiting.take(level.width, height - level.y) else {
            // Nothing fits: the gap is closed up to its lower neighbour.
            levels[at].y = left_y.min(right_y);
            join(&mut levels, at);
            continue;
        };
        // Against the higher neighbour, where the step disappears soonest.
        let x = if left_y >= right_y {
            level.x
        } else {
            level.x + level.width - item.width
        };
        place(item, x, level.y);
        right = right.max(x + item.width);
        bottom = bottom.max(level.y + item.height);
        let raised = Level {
            x,
            width: item.width,
            y: level.y + item.height,
        };
        let rest = Level {
            x: if x == level.x {
                x + item.width
            } else {
                level.x
            },
            width: level.width - item.width,
            y: level.y,
        };
        let mut parts = [raised, rest];
        parts.sort_unstable_by_key(|part| part.x);
        let kept = parts.iter().copied().filter(|part| part.width > 0);
        levels.splice(at..=at, kept);
        let raised_at = at + usize::from(rest.width > 0 && rest.x < raised.x);
        join(&mut levels, raised_at);
    }
    (right, bottom)
}

/// Joins a level with neighbours of the same height.
fn join(levels: &mut Vec<Level>, at: usize) {
    if levels
        .get(at + 1)
        .is_some_and(|next| next.y == levels[at].y)
    {
        levels[at].width += levels.remove(at + 1).width;
    }
    if at > 0 && levels[at - 1].y == levels[at].y {
        levels[at - 1].width += levels.remove(at).width;
    }
}
