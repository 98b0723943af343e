//! PNG files of every sort, written byte by byte after the specification: an oracle that shares no code with the reader.
#![allow(dead_code, unreachable_pub, reason = "each test file uses a part")]

/// Pixels of a test picture.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Art {
    pub width: u32,
    pub height: u32,
    pub pixels: Vec<[u8; 4]>,
}

impl Art {
    pub fn from_fn(width: u32, height: u32, pixel: impl Fn(u32, u32) -> [u8; 4]) -> Art {
        let pixels = (0..height).flat_map(|y| (0..width).map(move |x| (x, y))).map(|(x, y)| pixel(x, y)).collect();
        Art { width, height, pixels }
    }

    pub fn at(&self, x: u32, y: u32) -> [u8; 4] {
        self.pixels[(y * self.width + x) as usize]
    }

    /// Pastes another picture, replacing what is there.
    pub fn paste(&mut self, other: &Art, left: u32, top: u32) {
        for y in 0..other.height {
            for x in 0..other.width {
                self.pixels[((top + y) * self.width + left + x) as usize] = other.at(x, y);
            }
        }
    }
}

/// A small figure, another for each number: a blob with a hole and a limb, transparent around.
pub fn figure(number: u32, width: u32, height: u32) -> Art {
    let (w, h) = (f64::from(width), f64::from(height));
    let sway = f64::from(number % 5) * 0.04;
    Art::from_fn(width, height, |x, y| {
        let (u, v) = ((f64::from(x) + 0.5) / w, (f64::from(y) + 0.5) / h);
        let body = (u - 0.45 - sway).hypot(v - 0.55) < 0.33;
        let hole = (u - 0.45 - sway).hypot(v - 0.5) < 0.08;
        let limb = (v - 0.2 - 0.1 * f64::from(number % 3)).abs() < 0.09 && u > 0.3 && u < 0.9;
        let shade = (25 * (number % 6)) as u8;
        if (body && !hole) || limb { [200 - shade, 60 + shade, (x * 7 + y * 3) as u8, 255] } else { [0; 4] }
    })
}

/// How a PNG holds its pixels.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Sort {
    Rgba8,
    Rgba16,
    Rgb8,
    GreyAlpha8,
    Grey16,
    Grey1,
    /// Palette of the picture's colours with 1, 2, 4 or 8 bits a pixel.
    Palette(u8),
}

pub fn chunk(name: &[u8; 4], data: &[u8]) -> Vec<u8> {
    let mut bytes = (data.len() as u32).to_be_bytes().to_vec();
    bytes.extend(name);
    bytes.extend(data);
    let checksum = crc(&bytes[4..]);
    bytes.extend(checksum.to_be_bytes());
    bytes
}

/// ISO 3309.
pub fn crc(bytes: &[u8]) -> u32 {
    !bytes.iter().fold(!0, |mut crc, byte| {
        crc ^= u32::from(*byte);
        for _ in 0..8 {
            crc = if crc & 1 == 1 { (crc >> 1) ^ 0xedb8_8320 } else { crc >> 1 };
        }
        crc
    })
}

/// A zlib stream of stored blocks (RFC 1950, 1951).
pub fn stored(data: &[u8]) -> Vec<u8> {
    let mut bytes = vec![0x78, 0x01];
    let mut blocks = data.chunks(65_535).peekable();
    if data.is_empty() {
        bytes.extend([1, 0, 0, 0xff, 0xff]);
    }
    while let Some(block) = blocks.next() {
        bytes.push(u8::from(blocks.peek().is_none()));
        bytes.extend((block.len() as u16).to_le_bytes());
        bytes.extend((!(block.len() as u16)).to_le_bytes());
        bytes.extend(block);
    }
    let (a, b) = data.iter().fold((1_u32, 0_u32), |(a, b), byte| {
        let a = (a + u32::from(*byte)) % 65_521;
        (a, (b + a) % 65_521)
    });
    bytes.extend((b << 16 | a).to_be_bytes());
    bytes
}

/// The palette of a picture: its colours in the order they come.
fn palette(art: &Art) -> Vec<[u8; 4]> {
    let mut colours: Vec<[u8; 4]> = Vec::new();
    for pixel in &art.pixels {
        if !colours.contains(pixel) {
            colours.push(*pixel);
        }
    }
    colours
}

/// Scanlines with filter 0 of the pixels at x0, x0 + dx ... and y0, y0 + dy ...
fn scanlines(art: &Art, sort: Sort, colours: &[[u8; 4]], (x0, y0, dx, dy): (u32, u32, u32, u32)) -> Vec<u8> {
    let mut bytes = Vec::new();
    for y in (y0..art.height).step_by(dy as usize) {
        let row: Vec<[u8; 4]> = (x0..art.width).step_by(dx as usize).map(|x| art.at(x, y)).collect();
        if row.is_empty() {
            continue;
        }
        bytes.push(0);
        let packed = |bits: u8, values: Vec<u8>| -> Vec<u8> {
            let each = usize::from(8 / bits);
            values
                .chunks(each)
                .map(|part| {
                    (0..each).fold(0_u8, |byte, i| {
                        // A byte of one 8-bit value is that value; the shift below would lose it.
                        if bits == 8 { part[0] } else { byte << bits | part.get(i).copied().unwrap_or(0) }
                    })
                })
                .collect()
        };
        let index = |pixel: &[u8; 4]| colours.iter().position(|colour| colour == pixel).unwrap_or(0) as u8;
        match sort {
            Sort::Rgba8 => bytes.extend(row.as_flattened()),
            // The low byte differs from the high one: it must not matter.
            Sort::Rgba16 => bytes.extend(row.iter().flatten().flat_map(|v| [*v, v.wrapping_mul(31)])),
            Sort::Rgb8 => bytes.extend(row.iter().flat_map(|p| [p[0], p[1], p[2]])),
            Sort::GreyAlpha8 => bytes.extend(row.iter().flat_map(|p| [p[0], p[3]])),
            Sort::Grey16 => bytes.extend(row.iter().flat_map(|p| [p[0], 7])),
            Sort::Grey1 => bytes.extend(packed(1, row.iter().map(|p| u8::from(p[0] > 127)).collect())),
            Sort::Palette(bits) => bytes.extend(packed(bits, row.iter().map(index).collect())),
        }
    }
    bytes
}

/// The seven passes of interlacing: first column and row, steps.
const ADAM7: [(u32, u32, u32, u32); 7] =
    [(0, 0, 8, 8), (4, 0, 8, 8), (0, 4, 4, 8), (2, 0, 4, 4), (0, 2, 2, 4), (1, 0, 2, 2), (0, 1, 1, 2)];

fn image_data(art: &Art, sort: Sort, colours: &[[u8; 4]], interlaced: bool) -> Vec<u8> {
    match interlaced {
        true => ADAM7.iter().flat_map(|pass| scanlines(art, sort, colours, *pass)).collect(),
        false => scanlines(art, sort, colours, (0, 0, 1, 1)),
    }
}

fn head(art: &Art, sort: Sort, colours: &[[u8; 4]], interlaced: bool) -> Vec<u8> {
    let (depth, colour) = match sort {
        Sort::Rgba8 => (8, 6),
        Sort::Rgba16 => (16, 6),
        Sort::Rgb8 => (8, 2),
        Sort::GreyAlpha8 => (8, 4),
        Sort::Grey16 => (16, 0),
        Sort::Grey1 => (1, 0),
        Sort::Palette(bits) => (bits, 3),
    };
    let mut header = art.width.to_be_bytes().to_vec();
    header.extend(art.height.to_be_bytes());
    header.extend([depth, colour, 0, 0, u8::from(interlaced)]);
    let mut bytes = b"\x89PNG\r\n\x1a\n".to_vec();
    bytes.extend(chunk(b"IHDR", &header));
    if matches!(sort, Sort::Palette(_)) {
        let rgb: Vec<u8> = colours.iter().flat_map(|c| [c[0], c[1], c[2]]).collect();
        bytes.extend(chunk(b"PLTE", &rgb));
        bytes.extend(chunk(b"tRNS", &colours.iter().map(|c| c[3]).collect::<Vec<u8>>()));
    }
    bytes
}

/// A PNG.
pub fn png(art: &Art, sort: Sort, interlaced: bool) -> Vec<u8> {
    let colours = palette(art);
    let mut bytes = head(art, sort, &colours, interlaced);
    bytes.extend(chunk(b"IDAT", &stored(&image_data(art, sort, &colours, interlaced))));
    bytes.extend(chunk(b"IEND", &[]));
    bytes
}

/// One image of an animation.
#[derive(Clone, Debug)]
pub struct Shown {
    pub art: Art,
    pub left: u32,
    pub top: u32,
    /// Delay as a fraction of a second.
    pub delay: (u16, u16),
    /// 0 keep, 1 clear, 2 restore.
    pub disposal: u8,
    pub over: bool,
}

/// An animated RGBA PNG; with `alone` the still image comes first and is no part of the animation.
pub fn apng(size: (u32, u32), images: &[Shown], alone: Option<&Art>, interlaced: bool) -> Vec<u8> {
    let canvas = Art { width: size.0, height: size.1, pixels: Vec::new() };
    let mut bytes = head(&canvas, Sort::Rgba8, &[], interlaced);
    let mut count = (images.len() as u32).to_be_bytes().to_vec();
    count.extend([0; 4]);
    bytes.extend(chunk(b"acTL", &count));
    let data = |art: &Art| stored(&image_data(art, Sort::Rgba8, &[], interlaced));
    if let Some(art) = alone {
        bytes.extend(chunk(b"IDAT", &data(art)));
    }
    let mut sequence = 0_u32;
    let mut next = || {
        sequence += 1;
        (sequence - 1).to_be_bytes()
    };
    for (index, image) in images.iter().enumerate() {
        let mut control = next().to_vec();
        for value in [image.art.width, image.art.height, image.left, image.top] {
            control.extend(value.to_be_bytes());
        }
        control.extend(image.delay.0.to_be_bytes());
        control.extend(image.delay.1.to_be_bytes());
        control.extend([image.disposal, u8::from(image.over)]);
        bytes.extend(chunk(b"fcTL", &control));
        if index == 0 && alone.is_none() {
            bytes.extend(chunk(b"IDAT", &data(&image.art)));
        } else {
            let mut part = next().to_vec();
            part.extend(data(&image.art));
            bytes.extend(chunk(b"fdAT", &part));
        }
    }
    bytes.extend(chunk(b"IEND", &[]));
    bytes
}

/// What a viewer shows after each image, worked out pixel by pixel in floating point.
pub fn shown(size: (u32, u32), images: &[Shown]) -> Vec<Art> {
    let mut canvas = Art::from_fn(size.0, size.1, |_, _| [0; 4]);
    let mut seen = Vec::new();
    for (index, image) in images.iter().enumerate() {
        let before = canvas.clone();
        for y in 0..image.art.height {
            for x in 0..image.art.width {
                let at = ((image.top + y) * size.0 + image.left + x) as usize;
                let (above, below) = (image.art.at(x, y), canvas.pixels[at]);
                let (a, b) = (f64::from(above[3]) / 255.0, f64::from(below[3]) / 255.0);
                let alpha = a + b * (1.0 - a);
                canvas.pixels[at] = if !image.over {
                    above
                } else if alpha == 0.0 || a == 0.0 {
                    below
                } else {
                    let mix = |i: usize| {
                        let sum = f64::from(above[i]) * a + f64::from(below[i]) * b * (1.0 - a);
                        (sum / alpha).round() as u8
                    };
                    [mix(0), mix(1), mix(2), (alpha * 255.0).round() as u8]
                };
            }
        }
        seen.push(canvas.clone());
        match image.disposal {
            // Restoring before the first image leaves an empty canvas.
            2 if index > 0 => canvas = before,
            1 | 2 => {
                let blank = Art::from_fn(image.art.width, image.art.height, |_, _| [0; 4]);
                canvas.paste(&blank, image.left, image.top);
            }
            _ => {}
        }
    }
    seen
}
