//! A small painter of pixel art: filled forms in flat parts, toned and outlined by rule.

/// 8-bit RGBA pixels, rows from the top.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Raster {
    /// Columns.
    pub width: u32,
    /// Rows.
    pub height: u32,
    /// Pixels, row by row.
    pub pixels: Vec<[u8; 4]>,
}

impl Raster {
    /// A wholly transparent raster.
    pub(crate) fn new(width: u32, height: u32) -> Raster {
        Raster { width, height, pixels: vec![[0; 4]; (width * height) as usize] }
    }

    /// Copies another raster in with its top left at (x, y).
    pub(crate) fn put(&mut self, other: &Raster, x: u32, y: u32) {
        for row in 0..other.height {
            for column in 0..other.width {
                let from = (row * other.width + column) as usize;
                let to = ((y + row) * self.width + x + column) as usize;
                self.pixels[to] = other.pixels[from];
            }
        }
    }

    /// Puts cells side by side, `columns` to a row.
    pub(crate) fn sheet(cells: &[Raster], columns: u32) -> Raster {
        let (width, height) = (cells[0].width, cells[0].height);
        let rows = (cells.len() as u32).div_ceil(columns);
        let mut sheet = Raster::new(width * columns, height * rows);
        for (i, cell) in (0..).zip(cells) {
            sheet.put(cell, i % columns * width, i / columns * height);
        }
        sheet
    }
}

/// Three tones of one material.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Material {
    pub(crate) light: [u8; 3],
    pub(crate) base: [u8; 3],
    pub(crate) shade: [u8; 3],
    /// Colour of the body part in the part map.
    pub(crate) part: [u8; 3],
}

/// The colour of outlines: a deep dusk blue rather than black.
pub(crate) const OUTLINE: [u8; 3] = [26, 28, 52];

/// A cell under the brush. Later forms lie over earlier ones.
pub(crate) struct Canvas {
    width: i32,
    height: i32,
    /// Material and form number of each pixel.
    pixels: Vec<Option<(Material, u32)>>,
    forms: u32,
}

impl Canvas {
    pub(crate) fn new(width: i32, height: i32) -> Canvas {
        Canvas { width, height, pixels: vec![None; (width * height) as usize], forms: 0 }
    }

    /// Fills the pixels whose middles satisfy `inside`, as one form.
    pub(crate) fn fill(&mut self, material: Material, inside: impl Fn(f64, f64) -> bool) {
        self.forms += 1;
        for y in 0..self.height {
            for x in 0..self.width {
                if inside(f64::from(x) + 0.5, f64::from(y) + 0.5) {
                    self.pixels[(y * self.width + x) as usize] = Some((material, self.forms));
                }
            }
        }
    }

    pub(crate) fn ellipse(&mut self, material: Material, (cx, cy): (f64, f64), rx: f64, ry: f64) {
        self.fill(material, |x, y| ((x - cx) / rx).powi(2) + ((y - cy) / ry).powi(2) <= 1.0);
    }

    pub(crate) fn rect(&mut self, material: Material, (x0, y0): (f64, f64), (x1, y1): (f64, f64)) {
        self.fill(material, |x, y| x > x0 && x < x1 && y > y0 && y < y1);
    }

    /// A line with a thickness that runs from `r0` at one end to `r1` at the other.
    pub(crate) fn limb(&mut self, material: Material, from: (f64, f64), to: (f64, f64), r0: f64, r1: f64) {
        let (dx, dy) = (to.0 - from.0, to.1 - from.1);
        let length = (dx * dx + dy * dy).max(1e-9);
        self.fill(material, |x, y| {
            let share = (((x - from.0) * dx + (y - from.1) * dy) / length).clamp(0.0, 1.0);
            let (px, py) = (from.0 + dx * share - x, from.1 + dy * share - y);
            let radius = r0 + (r1 - r0) * share;
            px * px + py * py <= radius * radius
        });
    }

    /// A polygon by its corners, even-odd.
    pub(crate) fn polygon(&mut self, material: Material, corners: &[(f64, f64)]) {
        self.fill(material, |x, y| {
            let mut inside = false;
            for (i, a) in corners.iter().enumerate() {
                let b = corners[(i + 1) % corners.len()];
                if (a.1 > y) != (b.1 > y) && x < a.0 + (b.0 - a.0) * (y - a.1) / (b.1 - a.1) {
                    inside = !inside;
                }
            }
            inside
        });
    }

    fn at(&self, x: i32, y: i32) -> Option<(Material, u32)> {
        let inside = x >= 0 && y >= 0 && x < self.width && y < self.height;
        if inside { self.pixels[(y * self.width + x) as usize] } else { None }
    }

    /// Light falls from the top left: a form's rim there is light, its opposite rim is in shade, as is what lies
    /// right below or beside a later form.
    fn tone(&self, x: i32, y: i32, (material, form): (Material, u32)) -> [u8; 3] {
        let same = |dx, dy| self.at(x + dx, y + dy).is_some_and(|(_, other)| other == form);
        let covered = |dx, dy| self.at(x + dx, y + dy).is_some_and(|(_, other)| other > form);
        if covered(0, -1) || covered(-1, 0) || covered(1, 0) || !same(1, 0) || !same(0, 1) {
            material.shade
        } else if !same(-1, 0) || !same(0, -1) || !same(-1, -1) {
            material.light
        } else if !same(2, 0) || !same(1, 1) {
            material.shade
        } else {
            material.base
        }
    }

    /// The finished cell and its part map. The outline grows one pixel outward and belongs to the part it borders.
    pub(crate) fn finish(&self) -> (Raster, Raster) {
        let mut art = Raster::new(self.width as u32, self.height as u32);
        let mut parts = art.clone();
        for y in 0..self.height {
            for x in 0..self.width {
                let index = (y * self.width + x) as usize;
                let opaque = |[r, g, b]: [u8; 3]| [r, g, b, 255];
                if let Some(pixel) = self.at(x, y) {
                    art.pixels[index] = opaque(self.tone(x, y, pixel));
                    parts.pixels[index] = opaque(pixel.0.part);
                } else {
                    let beside = [(0, -1), (-1, 0), (1, 0), (0, 1)].map(|(dx, dy)| self.at(x + dx, y + dy));
                    let top = beside.into_iter().flatten().max_by_key(|(_, form)| *form);
                    if let Some((material, _)) = top {
                        art.pixels[index] = opaque(OUTLINE);
                        parts.pixels[index] = opaque(material.part);
                    }
                }
            }
        }
        (art, parts)
    }
}
