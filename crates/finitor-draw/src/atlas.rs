//! Many small pictures on few large ones, so that a page loads a handful of files.

use crate::svg::png_bytes;
use finitor_core::art::Picture;

/// A sheet is at most this wide and high, px: browsers draw no larger pictures everywhere.
const MOST: u32 = 4096;
/// Sheets are this wide where the pictures allow, px.
const USUAL: u32 = 1024;

/// Pictures on sheets.
#[derive(Clone, Debug, Default)]
pub struct Atlas {
    /// The sheets as PNG files.
    pub sheets: Vec<Vec<u8>>,
    /// Where each picture is, in the order in which they were given.
    pub places: Vec<AtlasPlace>,
}

/// Where a picture is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct AtlasPlace {
    /// The sheet, by index.
    pub sheet: usize,
    /// Left and top on the sheet, px.
    pub at: [u32; 2],
    /// Width and height of what is kept, px: 0 where the picture is fully transparent.
    pub size: [u32; 2],
    /// How much was left out at the left and the top, px.
    pub cut: [u32; 2],
}

/// Puts pictures on sheets in rows, without their transparent borders; pictures that are too large for a sheet lose what is over.
///
/// # Complexity
/// O(p + n log n), p pixels and n pictures.
pub fn atlas(pictures: &[Picture]) -> Atlas {
    let mut places: Vec<AtlasPlace> = pictures.iter().map(kept).collect();
    let width = places.iter().map(|place| place.size[0]).max().unwrap_or(0).max(USUAL);
    let mut order: Vec<usize> = (0..places.len()).filter(|index| places[*index].size[0] > 0).collect();
    // Rows waste least where they hold pictures of one height.
    order.sort_by_key(|index| std::cmp::Reverse(places[*index].size[1]));
    let (mut sheet, mut at, mut row) = (0, [0, 0], 0);
    let mut heights = vec![0];
    for index in order {
        let [wide, high] = places[index].size;
        if at[0] + wide > width {
            (at, row) = ([0, at[1] + row], 0);
        }
        if at[1] + high > MOST {
            (sheet, at, row) = (sheet + 1, [0, 0], 0);
            heights.push(0);
        }
        (places[index].sheet, places[index].at) = (sheet, at);
        at[0] += wide;
        row = row.max(high);
        heights[sheet] = heights[sheet].max(at[1] + high);
    }
    let sheets = heights.iter().enumerate().filter(|(_, height)| **height > 0).filter_map(|(sheet, height)| {
        let on = pictures.iter().zip(&places).filter(|(_, place)| place.sheet == sheet && place.size[0] > 0);
        png_bytes(&painted([width, *height], on)?)
    });
    let sheets = sheets.collect();
    Atlas { sheets, places }
}

/// The part of a picture that is not transparent.
fn kept(picture: &Picture) -> AtlasPlace {
    let (mut low, mut high) = ([u32::MAX; 2], [0; 2]);
    let width = picture.width();
    for (index, pixel) in picture.pixels().iter().enumerate() {
        if pixel[3] > 0 {
            let at = [index as u32 % width, index as u32 / width];
            (low, high) = ([low[0].min(at[0]), low[1].min(at[1])], [high[0].max(at[0] + 1), high[1].max(at[1] + 1)]);
        }
    }
    if low[0] == u32::MAX {
        return AtlasPlace::default();
    }
    let size = [(high[0] - low[0]).min(MOST), (high[1] - low[1]).min(MOST)];
    AtlasPlace { sheet: 0, at: [0, 0], size, cut: low }
}

fn painted<'p>([width, height]: [u32; 2], on: impl Iterator<Item = (&'p Picture, &'p AtlasPlace)>) -> Option<Picture> {
    let mut pixels = vec![[0; 4]; width as usize * height as usize];
    for (picture, AtlasPlace { at, size, cut, .. }) in on {
        for row in 0..size[1] {
            let from = ((cut[1] + row) * picture.width() + cut[0]) as usize;
            let to = ((at[1] + row) * width + at[0]) as usize;
            let wide = size[0] as usize;
            pixels[to..to + wide].copy_from_slice(&picture.pixels()[from..from + wide]);
        }
    }
    Picture::new(width, height, pixels)
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "a test fails by panicking")]
mod tests {
    use super::{Atlas, atlas};
    use finitor_core::art::Picture;

    /// A picture of one colour with a transparent border.
    fn block(size: [u32; 2], border: u32, colour: u8) -> Picture {
        let inside = |x: u32, y: u32| x >= border && y >= border && x < size[0] - border && y < size[1] - border;
        let pixel = |index: u32| match inside(index % size[0], index / size[0]) {
            true => [colour, 0, 0, 255],
            false => [0; 4],
        };
        Picture::new(size[0], size[1], (0..size[0] * size[1]).map(pixel).collect()).unwrap()
    }

    #[test]
    fn every_pixel_comes_back_from_its_sheet() {
        let mut pictures: Vec<Picture> = (1..90).map(|n| block([20 + n, 70 - n / 2], n % 7, n as u8)).collect();
        pictures.push(block([2, 2], 1, 9));
        pictures.push(block([2000, 3000], 0, 200));
        pictures.push(block([2000, 3000], 0, 201));
        let Atlas { sheets, places } = atlas(&pictures);
        assert_eq!((sheets.len(), places.len()), (2, pictures.len()));
        let sheets: Vec<(u32, Vec<u8>)> = sheets
            .iter()
            .map(|bytes| {
                let mut reader = png::Decoder::new(std::io::Cursor::new(bytes)).read_info().unwrap();
                let mut pixels = vec![0; reader.output_buffer_size().unwrap()];
                let info = reader.next_frame(&mut pixels).unwrap();
                (info.width, pixels)
            })
            .collect();
        for (picture, place) in pictures.iter().zip(&places) {
            let [cut_x, cut_y] = place.cut;
            for (index, pixel) in picture.pixels().iter().enumerate() {
                let (x, y) = (index as u32 % picture.width(), index as u32 / picture.width());
                let is_kept = x >= cut_x && y >= cut_y && x < cut_x + place.size[0] && y < cut_y + place.size[1];
                if !is_kept {
                    assert_eq!(pixel[3], 0);
                    continue;
                }
                let (width, sheet) = &sheets[place.sheet];
                let at = ((place.at[1] + y - cut_y) * width + place.at[0] + x - cut_x) as usize * 4;
                assert_eq!(&sheet[at..at + 4], pixel);
            }
        }
    }
}
