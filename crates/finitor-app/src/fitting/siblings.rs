//! Shapes of one rule, a part each, that may not overlap.

use super::written::{quality, shape_fits};
use super::{Status, Work};
use finitor_core::fit::{Fitted, Geometry, Source, part_siblings};
use finitor_files::{FrameSelections, Problems};

impl Work<'_> {
    /// Cuts the siblings that were fitted in this run where they overlap, frame by frame, and measures them again.
    pub(super) fn part_siblings(&mut self) -> Result<(), Problems> {
        let mut problems = Problems::default();
        let mut rules: Vec<&String> = self.actor.shapes.iter().filter_map(|shape| shape.siblings.as_ref()).collect();
        rules.dedup();
        let gallery = self.actor.gallery();
        for rule in rules {
            for frame in 0..self.made.len() {
                let of_rule = |shape: &usize| {
                    let spec = &self.actor.shapes[*shape];
                    let fresh = |made: &Option<(_, Status)>| made.as_ref().is_some_and(|(_, s)| *s == Status::Fitted);
                    spec.siblings.as_ref() == Some(rule) && !spec.may_overlap && fresh(&self.made[frame][*shape])
                };
                let shapes: Vec<usize> = (0..self.actor.shapes.len()).filter(of_rule).collect();
                let mut geometries: Vec<Geometry> =
                    shapes.iter().filter_map(|&shape| self.geometry(frame, shape)).collect();
                if geometries.len() != shapes.len() {
                    continue;
                }
                let cut = part_siblings(&mut geometries);
                if !cut.contains(&true) {
                    continue;
                }
                let loaded = &self.actor.frames[frame];
                let selections = FrameSelections::new(loaded, &gallery);
                let changed = shapes.into_iter().zip(geometries).zip(cut).filter(|(_, cut)| *cut);
                for ((shape, geometry), _) in changed {
                    let spec = &self.actor.shapes[shape];
                    let (Source::Fitted(fitting), Some((made, _))) = (&spec.source, &mut self.made[frame][shape])
                    else {
                        continue;
                    };
                    let selected = selections.of(fitting).map_err(Problems::from);
                    let Some(selected) = problems.take(selected) else { continue };
                    let fitted = Fitted { geometry, kind: fitting.kind, why: None };
                    let mut new = shape_fits(spec, &fitted, &made.recipe);
                    new.quality = quality(&fitted.geometry, loaded.pivot, &selected);
                    *made = new;
                }
            }
        }
        problems.or(())
    }

    /// The geometry of a shape under work, local; siblings are parted by their outlines, whatever holes they have.
    fn geometry(&self, frame: usize, shape: usize) -> Option<Geometry> {
        let (made, _) = self.made[frame][shape].as_ref()?;
        Some(Geometry { holes: Vec::new(), ..made.geometry().ok()? })
    }
}
