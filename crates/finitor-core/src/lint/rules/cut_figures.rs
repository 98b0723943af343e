//! cut_figures: a sheet's cells go through its figures.

use crate::art::{GridGuess, Mask, Run, guess_grid};
use crate::finding::Place;
use crate::lint::facts::{ActorFacts, FrameFacts};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use std::collections::{BTreeMap, BTreeSet};

#[derive(Debug)]
pub(crate) struct CutFigures;

/// Fewer crossed borders than this are single figures that reach far.
const FEWEST_CROSSED: usize = 3;

/// Other cells part the art cleanly where it crosses at most this share of their borders.
const HARDLY_ANY: f64 = 0.05;

impl StillRule for CutFigures {
    const SPEC: Spec = Spec {
        code: "cut_figures",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Frames,
        thresholds: &[],
        text: RuleText {
            means: "The cells of a sheet cut its figures: art goes on across the borders between cells, and other cells \
                    part it cleanly.",
            matters: "Each frame shows a piece of one figure and a piece of the next, and shapes are fitted to the pieces.",
            measured: "Borders between neighbouring cells that the actor uses, of which a quarter and at least three are \
                       crossed by art at the project's `alpha`, across or down; and whether the art, read anew, \
                       falls into cells of another size of which hardly any border is crossed. The figure is the number of frames at such borders.",
            fix: "Correct `cell`, `margin` or `gap`; `finitor sheet PICTURE` shows the cells that the art suggests.",
            drawing: "    o    |o     o|    o\n   /|\\   |\\    /||\\  /|\\    cells of 7\n   / \\  /| \\   / | \\ / \\    for a pitch of 6\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let mut sheets: BTreeMap<(usize, u32, u32), Cells<'_>> = BTreeMap::new();
        for frame in &facts.frames {
            let Some(place) = frame.sheet else { continue };
            let size = (frame.width as u32, frame.height as u32);
            sheets.entry((place.picture, size.0, size.1)).or_default().insert((place.x, place.y), frame);
        }
        for ((_, width, height), cells) in sheets {
            let sheet = UsedCells { width, height, cells };
            let Some(found) = sheet.cut() else { continue };
            let Some(first) = sheet.cells.values().next() else { continue };
            let (wide, high) = found.guess.grid.pitch();
            let Borders { all, crossed, cut } = &found.borders;
            out.report(Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(first.name.clone()),
                figure: cut.len() as f64,
                message: format!(
                    "Cells of {width} x {height} px cut figures of the sheet of {}: art crosses {crossed} of {all} borders, \
                     and a cell every {wide} x {high} px would cut none",
                    first.name
                ),
                fix: format!(
                    "Correct `cell`, `margin` or `gap` for a pitch of {wide} x {high} px; `finitor sheet PICTURE` shows \
                     the cells it finds."
                ),
            });
        }
    }
}

/// Frames by their cell's top left in the picture.
type Cells<'f> = BTreeMap<(u32, u32), &'f FrameFacts>;

/// The cells of one size that an actor uses of a picture.
struct UsedCells<'f> {
    width: u32,
    height: u32,
    cells: Cells<'f>,
}

/// A grid that cuts figures.
struct Cut {
    borders: Borders,
    /// What parts them.
    guess: GridGuess,
}

/// Borders that two cells share, along one axis.
#[derive(Default)]
struct Borders {
    all: usize,
    crossed: usize,
    /// The cells on both sides of them.
    cut: BTreeSet<(u32, u32)>,
}

impl Borders {
    /// Of a cell and the next, whether art goes on from one to the other.
    fn see(&mut self, cells: [(u32, u32); 2], goes_on: bool) {
        self.all += 1;
        if goes_on {
            self.crossed += 1;
            self.cut.extend(cells);
        }
    }

    fn are_cut(&self) -> bool {
        self.crossed >= FEWEST_CROSSED && 4 * self.crossed >= self.all
    }
}

impl UsedCells<'_> {
    /// What is wrong with the cells, where something is.
    ///
    /// # Complexity
    /// O(runs); that of [`guess_grid`] where most borders are crossed.
    fn cut(&self) -> Option<Cut> {
        let [mut beside, mut below] = [Borders::default(), Borders::default()];
        for (&(x, y), frame) in &self.cells {
            let (right, under) = ((x + self.width, y), (x, y + self.height));
            if let Some(next) = self.cells.get(&right) {
                beside.see([(x, y), right], self.goes_on_beside(frame, next));
            }
            if let Some(next) = self.cells.get(&under) {
                below.see([(x, y), under], self.goes_on_below(frame, next));
            }
        }
        if !beside.are_cut() && !below.are_cut() {
            return None;
        }
        let guess = *guess_grid(&self.art()?).first().filter(|guess| guess.crossed < HARDLY_ANY)?;
        let (wide, high) = guess.grid.pitch();
        let axes = [(beside, self.width, wide), (below, self.height, high)];
        let (borders, ..) = axes.into_iter().find(|(of, own, other)| of.are_cut() && own != other)?;
        Some(Cut { borders, guess })
    }

    fn goes_on_beside(&self, frame: &FrameFacts, next: &FrameFacts) -> bool {
        let mut starts = next.opaque.iter().filter(|run| run.start == 0).map(|run| run.row).peekable();
        let mut ends = frame.opaque.iter().filter(|run| run.end == self.width).map(|run| run.row);
        ends.any(|row| {
            while starts.next_if(|start| *start < row).is_some() {}
            starts.peek() == Some(&row)
        })
    }

    fn goes_on_below(&self, frame: &FrameFacts, next: &FrameFacts) -> bool {
        let last: Vec<_> = frame.opaque.iter().filter(|run| run.row + 1 == self.height).collect();
        let mut first = next.opaque.iter().take_while(|run| run.row == 0);
        first.any(|run| last.iter().any(|above| above.start < run.end && run.start < above.end))
    }

    /// The art of all cells where it lies in the picture.
    fn art(&self) -> Option<Mask> {
        let left = self.cells.keys().map(|(x, _)| *x).min()?;
        let top = self.cells.keys().map(|(_, y)| *y).min()?;
        let right = self.cells.keys().map(|(x, _)| x + self.width).max()?;
        let bottom = self.cells.keys().map(|(_, y)| y + self.height).max()?;
        let runs = self.cells.iter().flat_map(|(&(x, y), frame)| {
            let (x, y) = (x - left, y - top);
            frame.opaque.iter().map(move |run| Run { row: run.row + y, start: run.start + x, end: run.end + x })
        });
        Some(Mask::from_runs(right - left, bottom - top, runs))
    }
}

#[cfg(test)]
mod tests {
    use super::CutFigures;
    use crate::art::Mask;
    use crate::geometry::Rect;
    use crate::lint::facts::{FrameFacts, SheetPlace};
    use crate::lint::testing::{facts, frame, of_actor, with_strip};

    /// A row of figures, each a body on two feet with arms that differ, every 24 px from 4 px on.
    fn figures() -> Mask {
        Mask::from_fn(24 * 10, 32, |x, y| {
            let (figure, x) = (x / 24, x % 24);
            let arm = 10 + figure % 4;
            (9..15).contains(&x) && (4..24).contains(&y)
                || (y >= 24 && (x == 9 || x == 14))
                || ((4..20).contains(&x) && (arm..arm + 3).contains(&y))
        })
    }

    fn cut_into(art: &Mask, width: u32, height: u32) -> Vec<String> {
        let actor = with_strip(Rect::new(-4.0, 0.0, 4.0, 1.0));
        let mut facts = facts(&actor);
        for y in (0..=art.height() - height).step_by(height as usize) {
            for x in (0..=art.width() - width).step_by(width as usize) {
                let opaque =
                    Mask::from_fn(width, height, |of_x, of_y| art.get((x + of_x).into(), (y + of_y).into())).runs();
                let size = (f64::from(width), f64::from(height));
                let sheet = Some(SheetPlace { picture: 0, x, y });
                facts.frames.push(FrameFacts { opaque, sheet, ..frame("walk 0", (8.0, 24.0), size) });
            }
        }
        of_actor::<CutFigures>(&facts)
    }

    #[test]
    fn cells_that_cut_figures_are_found_and_those_that_part_them_are_not() {
        let art = figures();
        assert_eq!(cut_into(&art, 24, 32), Vec::<String>::new());
        assert_eq!(cut_into(&art, 48, 32), Vec::<String>::new());
        let found = cut_into(&art, 20, 32);
        assert!(found.len() == 1 && found[0].contains("a cell every 24 x 32 px would cut none"), "{found:?}");
        // Filled cells, as those of tiles, touch everywhere, and nothing parts them better.
        assert_eq!(cut_into(&Mask::from_fn(160, 32, |_, _| true), 16, 16), Vec::<String>::new());
    }
}
