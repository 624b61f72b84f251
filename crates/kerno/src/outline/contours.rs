//! Closed contours as rows of points, some on the curve and some off it.

/// A point of an outline in font units: x to the right from the pen, y **up**
/// from the baseline.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct OutlinePoint {
    /// Rightwards from the pen position.
    pub x: f32,
    /// Upwards from the baseline.
    pub y: f32,
}

impl OutlinePoint {
    /// A point at `x`, `y`.
    pub const fn new(x: f32, y: f32) -> Self {
        Self { x, y }
    }

    /// The point half-way to `other`.
    pub(crate) fn middle(self, other: Self) -> Self {
        Self::new((self.x + other.x) * 0.5, (self.y + other.y) * 0.5)
    }
}

/// Kind of a point of a contour.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum PointKind {
    /// The control point of a quadratic curve. Between two of them the contour
    /// runs through the point half-way (OpenType `glyf`).
    Quadratic = 0,
    /// The contour runs through it.
    OnCurve = 1,
    /// One of the two control points of a cubic curve. Both stand between points on
    /// the curve.
    Cubic = 2,
}

/// The contours of an outline, one after another, each closed.
#[derive(Clone, Debug, Default)]
pub(crate) struct Contours {
    pub(crate) points: Vec<OutlinePoint>,
    /// Of each point.
    pub(crate) kinds: Vec<PointKind>,
    /// One past the last point of each contour.
    pub(crate) ends: Vec<usize>,
    /// True if any curve is cubic.
    pub(crate) has_cubics: bool,
    /// True if the last contour was closed: what is drawn next starts another.
    is_closed: bool,
}

/// The points of one contour. The first and the last are neighbours.
#[derive(Clone, Copy)]
pub(crate) struct Contour<'a> {
    pub(crate) points: &'a [OutlinePoint],
    pub(crate) kinds: &'a [PointKind],
}

impl Contours {
    pub(crate) fn clear(&mut self) {
        self.points.clear();
        self.kinds.clear();
        self.ends.clear();
        self.has_cubics = false;
        self.is_closed = false;
    }

    pub(crate) fn is_empty(&self) -> bool {
        self.points.is_empty()
    }

    /// All points as those of one contour.
    pub(crate) fn all(&self) -> Contour<'_> {
        Contour {
            points: &self.points,
            kinds: &self.kinds,
        }
    }

    /// Each contour.
    pub(crate) fn each(&self) -> impl Iterator<Item = Contour<'_>> {
        let mut start = 0;
        self.ends.iter().map(move |end| {
            let range = start..*end;
            start = *end;
            Contour {
                points: &self.points[range.clone()],
                kinds: &self.kinds[range],
            }
        })
    }

    /// The points of each contour, control points too.
    pub(super) fn each_polygon(&mut self, mut change: impl FnMut(&mut [OutlinePoint])) {
        let mut start = 0;
        for end in &self.ends {
            change(&mut self.points[start..*end]);
            start = *end;
        }
    }

    /// Adds the contours of another outline.
    pub(crate) fn append(&mut self, other: &Self) {
        let before = self.points.len();
        self.points.extend_from_slice(&other.points);
        self.kinds.extend_from_slice(&other.kinds);
        self.ends.extend(other.ends.iter().map(|end| before + end));
        self.has_cubics |= other.has_cubics;
    }

    /// Takes contours of a single point away: they fill nothing, and may lie far off.
    pub(crate) fn drop_lone_points(&mut self) {
        let (mut start, mut kept) = (0, 0);
        self.ends.retain_mut(|end| {
            let range = start..*end;
            start = *end;
            if range.len() < 2 {
                return false;
            }
            if range.start != kept {
                self.points.copy_within(range.clone(), kept);
                self.kinds.copy_within(range.clone(), kept);
            }
            kept += range.len();
            *end = kept;
            true
        });
        self.points.truncate(kept);
        self.kinds.truncate(kept);
    }

    fn push(&mut self, point: OutlinePoint, kind: PointKind) {
        self.points.push(point);
        self.kinds.push(kind);
        if let Some(end) = self.ends.last_mut() {
            *end = self.points.len();
        }
    }

    /// Starts a contour; the one before is closed.
    pub(crate) fn start(&mut self, at: OutlinePoint) {
        self.is_closed = false;
        self.ends.push(self.points.len());
        self.push(at, PointKind::OnCurve);
    }

    pub(crate) fn close(&mut self) {
        self.is_closed = !self.ends.is_empty();
    }

    /// Segments before the first contour start at the origin; after a closed one,
    /// where that one did.
    fn begin(&mut self) {
        if self.ends.is_empty() {
            self.start(OutlinePoint::default());
        } else if self.is_closed {
            let before = self.ends.len().checked_sub(2).map_or(0, |at| self.ends[at]);
            let first = self.points.get(before).copied();
            self.start(first.unwrap_or_default());
        }
    }

    pub(crate) fn line(&mut self, to: OutlinePoint) {
        self.begin();
        self.push(to, PointKind::OnCurve);
    }

    pub(crate) fn quadratic(&mut self, control: OutlinePoint, to: OutlinePoint) {
        self.begin();
        self.push(control, PointKind::Quadratic);
        self.push(to, PointKind::OnCurve);
    }

    pub(crate) fn cubic(&mut self, first: OutlinePoint, second: OutlinePoint, to: OutlinePoint) {
        self.begin();
        self.has_cubics = true;
        self.push(first, PointKind::Cubic);
        self.push(second, PointKind::Cubic);
        self.push(to, PointKind::OnCurve);
    }
}
