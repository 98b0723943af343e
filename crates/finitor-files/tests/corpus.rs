//! A corpus of pictures drawn here, in every sort of file: the frames read must equal what was drawn, pixel by pixel.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod pictures;

use finitor_core::layers::Layers;
use finitor_files::{ActorFile, ActorReading, NoProgress, USUAL_MAX_MPX, load_actor};
use pictures::{Art, Shown, Sort, apng, figure, png, shown};
use std::fs;
use tempfile::TempDir;

/// A folder with pictures and an actor file over them.
struct Corpus {
    folder: TempDir,
}

impl Corpus {
    fn new(files: &[(&str, Vec<u8>)]) -> Corpus {
        let folder = tempfile::tempdir().unwrap();
        for (name, bytes) in files {
            let path = folder.path().join(name);
            fs::create_dir_all(path.parent().unwrap()).unwrap();
            fs::write(path, bytes).unwrap();
        }
        Corpus { folder }
    }

    fn load(&self, actor: &str) -> Result<ActorFile, String> {
        let path = self.folder.path().join("it.toml");
        fs::write(&path, format!("[actor]\nname = \"it\"\n{actor}")).unwrap();
        let layers = Layers::default();
        let root = self.folder.path();
        let reading =
            ActorReading { root, layers: &layers, tick_rate: 60.0, max_mpx: USUAL_MAX_MPX, progress: &NoProgress };
        load_actor(&path, &reading).map_err(|problems| problems.to_string())
    }

    /// All frames of an actor file, as read.
    fn frames(&self, actor: &str) -> Vec<Art> {
        let loaded = self.load(actor).unwrap();
        let gallery = loaded.gallery();
        let picture = |source| gallery.frame(source).unwrap().picture;
        let art = |picture: finitor_core::art::Picture| Art {
            width: picture.width(),
            height: picture.height(),
            pixels: picture.pixels().to_vec(),
        };
        loaded.frames.iter().map(|frame| art(picture(&frame.source))).collect()
    }
}

/// Transparent pixels have no colour that could be seen.
fn seen(art: &Art) -> Art {
    let pixel = |p: &[u8; 4]| if p[3] == 0 { [0; 4] } else { *p };
    Art { pixels: art.pixels.iter().map(pixel).collect(), ..art.clone() }
}

fn same(read: &[Art], drawn: &[Art], what: &str) {
    assert_eq!(read.len(), drawn.len(), "{what}: number of frames");
    for (index, (read, drawn)) in read.iter().zip(drawn).enumerate() {
        assert!(seen(read) == seen(drawn), "{what}: frame {index} is not what was drawn");
    }
}

#[test]
fn grids_of_odd_sizes_margins_and_gaps_give_the_frames_that_were_drawn() {
    // Cell, margin, gap, columns, rows, and what is left over at the right and bottom.
    type Pair = (u32, u32);
    let layouts: [(Pair, Pair, Pair, Pair, Pair); 6] = [
        ((16, 16), (0, 0), (0, 0), (4, 3), (0, 0)),
        ((13, 9), (3, 3), (1, 1), (5, 2), (0, 0)),
        ((7, 11), (1, 1), (5, 5), (3, 4), (0, 0)),
        ((10, 8), (0, 0), (2, 7), (4, 2), (3, 5)),
        ((9, 9), (6, 2), (0, 3), (3, 3), (2, 0)),
        ((1, 1), (0, 0), (1, 1), (6, 5), (0, 0)),
    ];
    for (cell, margin, gap, (columns, rows), left_over) in layouts {
        let cells: Vec<Art> = (0..columns * rows).map(|number| figure(number + 1, cell.0, cell.1)).collect();
        let width = 2 * margin.0 + columns * cell.0 + (columns - 1) * gap.0 + left_over.0;
        let height = 2 * margin.1 + rows * cell.1 + (rows - 1) * gap.1 + left_over.1;
        // Margins and gaps are full of rubbish: no pixel of it may get into a frame.
        let mut sheet = Art::from_fn(width, height, |x, y| [255, (x * 3) as u8, (y * 5) as u8, 255]);
        for (index, art) in (0_u32..).zip(&cells) {
            let (column, row) = (index % columns, index / columns);
            sheet.paste(art, margin.0 + column * (cell.0 + gap.0), margin.1 + row * (cell.1 + gap.1));
        }
        let corpus = Corpus::new(&[("sheet.png", png(&sheet, Sort::Rgba8, false))]);
        let around = if margin.0 == margin.1 && left_over == (0, 0) {
            format!("{}", margin.0)
        } else {
            format!("[{}, {}]", margin.0, margin.1)
        };
        let actor = format!(
            "[[sheet]]\nimage = \"sheet.png\"\ncell = [{}, {}]\nmargin = {around}\ngap = [{}, {}]\n[animation.all]\ncells = \"0-{}\"\n",
            cell.0,
            cell.1,
            gap.0,
            gap.1,
            cells.len() - 1
        );
        same(&corpus.frames(&actor), &cells, &format!("{cell:?} {margin:?} {gap:?}"));
    }
}

#[test]
fn islands_are_found_in_reading_order_whatever_their_sizes() {
    // Three rows of pieces of several sizes, 2 px and more apart; the second holds two small ones over each other beside a
    // tall one. A speck a pixel away from its figure belongs to it.
    let solid = |number: u32, width: u32, height: u32| {
        let mut art = figure(number, width, height);
        for i in 0..width {
            art.pixels[i as usize] = [9, number as u8, 9, 255];
        }
        for y in 0..height {
            art.pixels[(y * width) as usize] = [9, number as u8, 9, 255];
            art.pixels[(y * width + width - 1) as usize] = [9, number as u8, 9, 255];
        }
        for x in 0..width {
            art.pixels[((height - 1) * width + x) as usize] = [9, number as u8, 9, 255];
        }
        art
    };
    let mut speckled = solid(3, 12, 10);
    for y in 0..10 {
        speckled.pixels[y * 12 + 9] = [0; 4];
    }
    let placed = [
        (solid(1, 9, 14), (3, 2)),
        (solid(2, 20, 8), (15, 6)),
        (speckled, (40, 3)),
        (solid(4, 6, 21), (2, 20)),
        (solid(5, 11, 8), (12, 20)),
        (solid(6, 8, 9), (14, 32)),
        (solid(7, 16, 16), (30, 23)),
        (solid(8, 1, 1), (50, 50)),
    ];
    let mut sheet = Art::from_fn(60, 56, |_, _| [0; 4]);
    for (art, (x, y)) in &placed {
        sheet.paste(art, *x, *y);
    }
    let corpus = Corpus::new(&[("pieces.png", png(&sheet, Sort::Rgba8, false))]);
    let actor = "[[sheet]]\nimage = \"pieces.png\"\ncut = \"gaps\"\ngap = 2\n[animation.all]\ncells = \"0-7\"\n";
    let drawn: Vec<Art> = placed.iter().map(|(art, _)| art.clone()).collect();
    same(&corpus.frames(actor), &drawn, "pieces");
    // With a gap of 1 the speck column is a cell of its own.
    assert!(corpus.load(&actor.replace("gap = 2\n", "").replace("0-7", "0-8")).is_ok());
    // Each has its own feet: bottom centre, on a whole pixel.
    let loaded = corpus.load(actor).unwrap();
    assert_eq!((loaded.frames[0].pivot.x, loaded.frames[0].pivot.y), (4.0, 14.0));
    assert_eq!((loaded.frames[1].pivot.x, loaded.frames[1].pivot.y), (10.0, 8.0));
}

#[test]
fn every_sort_of_png_gives_the_pixels_that_were_drawn() {
    let drawn = Art::from_fn(21, 13, |x, y| match (x / 3 + y / 2) % 4 {
        0 => [0; 4],
        1 => [255, 255, 255, 255],
        2 => [200, 40, 10, 255],
        _ => [20, 180, 90, 130],
    });
    let grey = |value: u8, alpha: u8| [value, value, value, alpha];
    let as_sort = |sort: Sort| {
        Art::from_fn(21, 13, |x, y| {
            let [r, g, b, a] = drawn.at(x, y);
            match sort {
                Sort::Rgba8 | Sort::Rgba16 | Sort::Palette(_) => [r, g, b, a],
                Sort::Rgb8 => [r, g, b, 255],
                Sort::GreyAlpha8 => grey(r, a),
                Sort::Grey16 => grey(r, 255),
                Sort::Grey1 => grey(if r > 127 { 255 } else { 0 }, 255),
            }
        })
    };
    let sorts = [
        Sort::Rgba8,
        Sort::Rgba16,
        Sort::Rgb8,
        Sort::GreyAlpha8,
        Sort::Grey16,
        Sort::Grey1,
        Sort::Palette(2),
        Sort::Palette(4),
        Sort::Palette(8),
    ];
    for sort in sorts {
        for interlaced in [false, true] {
            let corpus = Corpus::new(&[("it.png", png(&drawn, sort, interlaced))]);
            let read = corpus.frames("[[sheet]]\nimage = \"it.png\"\n[animation.all]\ncells = \"0\"\n");
            same(&read, &[as_sort(sort)], &format!("{sort:?}, interlaced {interlaced}"));
        }
    }
    // Two colours, one bit.
    let two = Art::from_fn(11, 5, |x, y| if (x + y) % 3 == 0 { [250, 10, 10, 255] } else { [0; 4] });
    let corpus = Corpus::new(&[("it.png", png(&two, Sort::Palette(1), true))]);
    same(&corpus.frames("[[sheet]]\nimage = \"it.png\"\n[animation.all]\ncells = \"0\"\n"), &[two], "1-bit palette");
}

#[test]
fn a_key_colour_stands_for_transparent_within_its_tolerance() {
    let art = figure(2, 12, 12);
    // The background wavers by up to 3 a channel.
    let on_key = Art::from_fn(12, 12, |x, y| match art.at(x, y) {
        [_, _, _, 0] => [250 + (x % 4) as u8, (y % 4) as u8, 252, 255],
        pixel => pixel,
    });
    let corpus = Corpus::new(&[("it.png", png(&on_key, Sort::Rgb8, false))]);
    let sheet = |key: &str| format!("[[sheet]]\nimage = \"it.png\"\n{key}\n[animation.all]\ncells = \"0\"\n");
    same(&corpus.frames(&sheet("key = \"#fa00fc\"\nkey_tolerance = 3")), std::slice::from_ref(&art), "given");
    same(&corpus.frames(&sheet("key = \"corner\"\nkey_tolerance = 3")), std::slice::from_ref(&art), "corner");
    let tight = &corpus.frames(&sheet("key = \"#fa00fc\"\nkey_tolerance = 2"))[0];
    assert!(tight.at(3, 0)[3] == 255 && tight.at(2, 0)[3] == 0, "no further than the tolerance");
    let files = "[animation.all]\nfiles = \"it.png\"\nkey = \"corner\"\nkey_tolerance = 3\n";
    same(&corpus.frames(files), &[art], "files");
}

#[test]
fn animated_png_is_blended_and_disposed_of_as_the_specification_says() {
    let size = (14, 10);
    let half = |art: Art| {
        // Some pixels half transparent, so that blending counts.
        let pixels = art
            .pixels
            .iter()
            .enumerate()
            .map(|(i, p)| if i % 3 == 0 && p[3] > 0 { [p[0], p[1], p[2], 90] } else { *p });
        Art { pixels: pixels.collect(), ..art.clone() }
    };
    let image = |number: u32, left: u32, top: u32, width: u32, height: u32, disposal: u8, over: bool| Shown {
        art: half(figure(number, width, height)),
        left,
        top,
        delay: (number as u16, 60),
        disposal,
        over,
    };
    let images = [
        image(3, 0, 0, 14, 10, 0, false),
        image(5, 2, 3, 9, 7, 2, true),
        image(1, 4, 0, 10, 10, 1, true),
        image(2, 1, 1, 8, 8, 0, false),
        image(4, 5, 2, 9, 8, 2, false),
        image(7, 0, 0, 14, 10, 0, true),
    ];
    let alone = figure(9, 14, 10);
    for (still, interlaced) in [(None, false), (Some(&alone), false), (None, true)] {
        let corpus = Corpus::new(&[("it.png", apng(size, &images, still, interlaced))]);
        let actor = "[animation.all]\nfile = \"it.png\"\n";
        same(
            &corpus.frames(actor),
            &shown(size, &images),
            &format!("alone {}, interlaced {interlaced}", still.is_some()),
        );
        let ticks: Vec<u32> = corpus.load(actor).unwrap().frames.iter().map(|frame| frame.ticks).collect();
        assert_eq!(ticks, [3, 5, 1, 2, 4, 7]);
    }
    // An image that is to be undone with nothing before it leaves an empty canvas.
    let undone = [image(3, 2, 2, 9, 7, 2, false), image(1, 0, 0, 5, 5, 0, true)];
    let corpus = Corpus::new(&[("it.png", apng(size, &undone, Some(&alone), false))]);
    same(&corpus.frames("[animation.all]\nfile = \"it.png\"\n"), &shown(size, &undone), "undone first");
}

#[test]
fn gif_frames_are_those_that_were_shown_and_their_delays_become_ticks() {
    // Colours of the palette; 3 is transparent.
    let colours: [[u8; 3]; 4] = [[250, 20, 20], [20, 240, 30], [30, 40, 250], [0, 0, 0]];
    let size = (11_u16, 9_u16);
    let pixel = |number: u32, x: u32, y: u32| ((x * (number + 1) + y * 3 + number) % 4) as u8;
    // Left, top, width, height, disposal, delay in 10 ms, interlaced.
    let layout: [(u16, u16, u16, u16, gif::DisposalMethod, u16, bool); 5] = [
        (0, 0, 11, 9, gif::DisposalMethod::Keep, 5, false),
        (2, 1, 7, 8, gif::DisposalMethod::Previous, 5, true),
        (4, 3, 6, 5, gif::DisposalMethod::Background, 5, false),
        (0, 0, 3, 3, gif::DisposalMethod::Keep, 0, false),
        (1, 0, 10, 9, gif::DisposalMethod::Keep, 25, true),
    ];
    let mut bytes = Vec::new();
    let mut encoder = gif::Encoder::new(&mut bytes, size.0, size.1, colours.as_flattened()).unwrap();
    let mut drawn = Vec::new();
    for (number, (left, top, width, height, dispose, delay, interlaced)) in (0_u32..).zip(layout) {
        let row = |y: u16| (0..width).map(move |x| pixel(number, x.into(), y.into()));
        // Rows of an interlaced image: every 8th from 0, from 4, every 4th from 2, every 2nd from 1.
        let order: Vec<u16> = match interlaced {
            true => {
                [(0, 8), (4, 8), (2, 4), (1, 2)].iter().flat_map(|&(from, step)| (from..height).step_by(step)).collect()
            }
            false => (0..height).collect(),
        };
        let frame = gif::Frame {
            delay,
            dispose,
            transparent: Some(3),
            top,
            left,
            width,
            height,
            interlaced,
            buffer: order.into_iter().flat_map(row).collect(),
            ..gif::Frame::default()
        };
        encoder.write_frame(&frame).unwrap();
        let art = Art::from_fn(width.into(), height.into(), |x, y| match pixel(number, x, y) {
            3 => [0; 4],
            index => {
                let [r, g, b] = colours[usize::from(index)];
                [r, g, b, 255]
            }
        });
        let disposal = match dispose {
            gif::DisposalMethod::Background => 1,
            gif::DisposalMethod::Previous => 2,
            _ => 0,
        };
        drawn.push(Shown { art, left: left.into(), top: top.into(), delay: (delay, 100), disposal, over: true });
    }
    drop(encoder);
    let corpus = Corpus::new(&[("turn.gif", bytes)]);
    let actor = "[animation.turn]\nfile = \"turn.gif\"\n";
    let expected = shown((11, 9), &drawn);
    same(&corpus.frames(actor), &expected, "GIF");
    // 50 ms are 3 ticks of 60 a second; none stated is 100 ms; 250 ms are 15.
    let ticks = |actor: &str| corpus.load(actor).unwrap().frames.iter().map(|frame| frame.ticks).collect::<Vec<u32>>();
    assert_eq!(ticks(actor), [3, 3, 3, 6, 15]);
    // In any order, there and back; ticks go with their frames.
    let there = format!("{actor}order = \"0-2,4\"\nping_pong = true\n");
    assert_eq!(ticks(&there), [3, 3, 3, 15, 3, 3]);
    let order = [0, 1, 2, 4, 2, 1].map(|index: usize| expected[index].clone());
    same(&corpus.frames(&there), &order, "there and back");
    assert_eq!(ticks(&format!("{actor}order = \"4,0\"\nticks = [2, 9]\n")), [2, 9]);
    let past = corpus.load(&format!("{actor}order = \"0-9\"\n")).unwrap_err();
    assert!(past.contains("image 5 is past the end of turn.gif: it has 5 images, 0 to 4"), "{past}");
}

#[test]
fn delays_that_are_no_whole_ticks_do_not_drift() {
    // 20 images of 1/24 s: 2.5 ticks each, 50 in all.
    let images: Vec<Shown> = (0..20)
        .map(|n| Shown { art: figure(n, 6, 6), left: 0, top: 0, delay: (1, 24), disposal: 1, over: false })
        .collect();
    let corpus = Corpus::new(&[("it.png", apng((6, 6), &images, None, false))]);
    let loaded = corpus.load("[animation.all]\nfile = \"it.png\"\n").unwrap();
    let ticks: Vec<u32> = loaded.frames.iter().map(|frame| frame.ticks).collect();
    assert_eq!(ticks.iter().sum::<u32>(), 50);
    assert!(ticks.iter().all(|ticks| (2..=3).contains(ticks)), "{ticks:?}");
}

#[test]
fn files_of_a_folder_come_in_natural_order_and_part_maps_stay_out() {
    let names = ["walk_1.png", "walk_2.png", "walk_10.png", "walk_11.png"];
    let art: Vec<Art> = (0..4).map(|n| figure(n, 10 + n, 12)).collect();
    let mut files: Vec<(&str, Vec<u8>)> =
        names.iter().zip(&art).map(|(name, art)| (*name, png(art, Sort::Rgba8, false))).collect();
    files.push(("walk_2.parts.png", png(&art[1], Sort::Rgba8, false)));
    files.push(("notes.txt", b"no picture".to_vec()));
    let corpus = Corpus::new(&files);
    let actor = "[animation.walk]\nfiles = \"walk_*.png\"\norder = \"0-3,2-1\"\n";
    let order = [0, 1, 2, 3, 2, 1].map(|index: usize| art[index].clone());
    same(&corpus.frames(actor), &order, "natural order");
    let each = corpus.load(actor).unwrap();
    let bottom =
        |art: &Art| (0..art.height).filter(|y| (0..art.width).any(|x| art.at(x, *y)[3] > 127)).max().unwrap() + 1;
    for (frame, art) in each.frames.iter().zip(&order) {
        assert_eq!(frame.pivot.y, f64::from(bottom(art)), "of several sizes, each on its own feet");
    }
    let none = corpus.load("[animation.walk]\nfiles = \"run_*.png\"\n").unwrap_err();
    assert!(none.contains("no file matches \"run_*.png\""), "{none}");
}
