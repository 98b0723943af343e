//! Fitting a whole actor: which shapes to fit again, which to keep, and what to write.
//!
//! Frames are gone through twice at most, each decoded when its turn comes and let go again: once to fit what is fitted
//! frame by frame and to lay the rest over each other, and once to measure what is held over several frames.

mod everywhere;
mod held;
mod refit;
mod request;
mod siblings;
mod written;

use finitor_core::fit::{
    FitError, Fitted, Fitting, Geometry, Kind, Sides, Source, fit_selection, given_shape, strip_along,
};
use finitor_files::{
    ActorFile, FITS_SCHEMA, FRAMES_AT_ONCE, FitGroup, FitsFile, FrameSelections, Matching, Problem, Problems, Progress,
    ShapeFits, fit_groups, match_frames,
};
pub(crate) use refit::{Refitted, refit, refitted};
pub use request::{FitRequest, Outcome, Status};

use held::HeldArt;
use rayon::prelude::*;
use std::collections::BTreeSet;
use written::{add_hand_made, by_hand, frame_fits, quality, shape_fits, with_meaning};

/// Fits an actor. Shapes locked or changed by hand since `old` was written stay; so do, unless all are wanted, those whose
/// recipe and art have not changed.
///
/// # Errors
/// Shapes that cannot be fitted at all, hand-made ones that are no polygon or whose frame is gone, and pictures that
/// changed under way.
pub fn fit_actor(
    actor: &ActorFile,
    old: Option<&FitsFile>,
    request: FitRequest<'_>,
    progress: &dyn Progress,
) -> Result<Outcome, Problems> {
    let nothing =
        FitsFile { schema: FITS_SCHEMA.to_string(), actor: actor.name.clone(), settled: None, frames: Vec::new() };
    let copied = match old.filter(|_| request.everywhere) {
        Some(old) => Some(everywhere::everywhere(actor, old, |shape| request.wants(actor, shape))?),
        None => None,
    };
    let old = copied.as_ref().or(old);
    let matching = match_frames(actor, old.unwrap_or(&nothing));
    let mut work = Work {
        actor,
        matching,
        request,
        made: vec![vec![None; actor.shapes.len()]; actor.frames.len()],
        notes: Vec::new(),
    };
    let mut problems = Problems::default();
    problems.0.extend(work.lost(request.discard_edits));
    let groups = fit_groups(actor);
    // Strips follow other shapes, and shapes may be like others, so those come first.
    let round_of = |group: &FitGroup| match &actor.shapes[group.shape] {
        shape if matches!(shape.source, Source::Along(_)) => 2,
        shape if shape.like.is_some() => 1,
        _ => 0,
    };
    for round in 0..=2 {
        let now = groups.iter().filter(|group| round_of(group) == round);
        let fresh: Vec<&FitGroup> = now.filter(|group| !work.keep_what_stays(group, &mut problems)).collect();
        problems.take(work.fit(&fresh, progress));
    }
    problems.take(work.part_siblings());
    problems.take(work.measure(&groups, progress));
    let Work { matching, made, mut notes, .. } = work;
    let written = made.into_par_iter().enumerate().with_max_len(FRAMES_AT_ONCE).map(|(frame, shapes)| {
        let (mut fits, mut status): (Vec<ShapeFits>, Vec<Status>) = shapes.into_iter().flatten().unzip();
        add_hand_made(matching.frames[frame], &mut fits, &mut status);
        (frame_fits(actor, frame, fits), status)
    });
    let (frames, statuses) = written.unzip();
    let empty = actor.empty_animations.iter();
    let empty = empty.map(|name| format!("{name}: none of its frames has an opaque pixel, so nothing can be fitted"));
    notes.splice(0..0, empty.chain(actor.missing_anchors.iter().map(ToString::to_string)));
    let changes = if old.is_some() { matching.changes } else { Vec::new() };
    let fits = FitsFile { frames, ..nothing };
    problems.or(Outcome { fits, statuses, notes, changes })
}

/// Shapes under work.
struct Work<'a> {
    actor: &'a ActorFile,
    matching: Matching<'a>,
    request: FitRequest<'a>,
    /// By frame and shape.
    made: Vec<Vec<Option<(ShapeFits, Status)>>>,
    notes: Vec<String>,
}

/// What fitting a frame gave: its shapes by index, `None` where there is nothing to fit to.
type FrameResult = (usize, Vec<(usize, Result<Option<ShapeFits>, FitError>)>);

impl<'a> Work<'a> {
    fn written(&self, frame: usize, shape: usize) -> Option<&'a ShapeFits> {
        let name = &self.actor.shapes[shape].name;
        self.matching.frames[frame]?.shapes.iter().find(|known| known.name == *name)
    }

    /// Hand edits on frames that the actor file no longer has are not dropped unasked.
    fn lost(&self, discard_edits: &[String]) -> Vec<Problem> {
        let mut problems = Vec::new();
        for frame in self.matching.gone.iter().filter(|frame| !discard_edits.contains(&frame.animation)) {
            let Some(shape) = frame.shapes.iter().find(|shape| shape.is_hand_made()) else {
                continue;
            };
            let name = &frame.animation;
            let message = format!(
                "{} on {name} {} was hand-edited, and the actor file no longer has that frame",
                shape.name, frame.frame
            );
            let hint = format!(
                "bring the frame back; or `finitor fit --rename {name}=NEW` if the animation has another name now; or `--discard-edits {name}` to drop it"
            );
            problems.push(Problem::of_file(&self.actor.path, message).with_hint(hint));
        }
        problems
    }

    /// Whether a written shape stays because a hand made it.
    fn stays_by_hand(&self, shape: usize, written: &ShapeFits) -> bool {
        written.is_hand_made() && !(self.request.unlock && self.request.wants(self.actor, shape))
    }

    /// Keeps what may stay of a group: shapes made by hand, all of it when its recipe and art are those of the last run
    /// unless all are to be fitted, and all of it when it is not asked for. Says whether that was all.
    fn keep_what_stays(&mut self, group: &FitGroup, problems: &mut Problems) -> bool {
        let wanted = self.request.wants(self.actor, group.shape);
        let stays = group.frames.iter().all(|&frame| match self.written(frame, group.shape) {
            Some(written) if self.stays_by_hand(group.shape, written) => true,
            Some(written) => {
                let is_current = written.recipe == group.recipe && !written.is_hand_made();
                // What follows a shape that was edited goes along with the edit.
                let follows =
                    self.request.everywhere && matches!(self.actor.shapes[group.shape].source, Source::Along(_));
                !(wanted || follows) || (is_current && !self.request.all && !follows)
            }
            None => !wanted,
        });
        if stays {
            for &frame in &group.frames {
                self.put(frame, group.shape, None, problems);
            }
        }
        stays
    }

    /// Puts a shape in place: the one made by hand if there is one, else the one fitted, else the last run's.
    fn put(&mut self, frame: usize, shape: usize, fitted: Option<ShapeFits>, problems: &mut Problems) {
        let spec = &self.actor.shapes[shape];
        let piece = match (self.written(frame, shape), fitted) {
            (Some(old), _) if self.stays_by_hand(shape, old) => {
                let kept = by_hand(self.actor, spec, frame, old).map_err(Problems::from);
                problems.take(kept).map(|kept| (kept, Status::ByHand))
            }
            (_, Some(fitted)) => Some((fitted, Status::Fitted)),
            (Some(old), None) => Some((with_meaning(old.clone(), spec), Status::Unchanged)),
            (None, None) => None,
        };
        self.made[frame][shape] = piece;
    }

    /// Fits the groups.
    fn fit(&mut self, groups: &[&FitGroup], progress: &dyn Progress) -> Result<(), Problems> {
        let mut problems = Problems::default();
        let mut held: Vec<Option<HeldArt>> = Vec::new();
        let fitting = |shape: usize| match &self.actor.shapes[shape].source {
            Source::Fitted(fitting) => Some(fitting),
            _ => None,
        };
        // By frame: the groups that want its pixels.
        let mut wanted: Vec<Vec<usize>> = vec![Vec::new(); self.actor.frames.len()];
        for (index, group) in groups.iter().enumerate() {
            let fitted = fitting(group.shape).is_some();
            group.frames.iter().filter(|_| fitted).for_each(|frame| wanted[*frame].push(index));
            let several = fitted && group.frames.len() > 1;
            let of = fitting(group.shape).filter(|_| several);
            held.push(of.and_then(|fitting| HeldArt::new(self.actor, group, fitting)));
            if several && held[index].is_none() {
                let name = &self.actor.shapes[group.shape].name;
                let message = format!("the pivots of the frames {name} is held over lie too far apart for one shape");
                problems.0.push(Problem::of_file(&self.actor.path, message));
            }
        }
        for (frame, shapes) in problems.take(self.fit_frames(groups, &held, &wanted, progress)).unwrap_or_default() {
            for (shape, result) in shapes {
                self.settle(frame, shape, result, &mut problems);
            }
        }
        let together = |(group, held): (&&FitGroup, &Option<HeldArt>)| {
            let spec = &self.actor.shapes[group.shape];
            let plain = |geometry: Geometry| Fitted { geometry, kind: Kind::Box, why: None };
            let fitted = match (&spec.source, held) {
                (Source::Fitted(_), Some(held)) => {
                    let fitting = self.recipe(group)?;
                    held.fit(&fitting, self.actor.faces(group.frames[0]))
                }
                (Source::Fitted(_), None) => return None,
                (Source::Given(given), _) => {
                    let pivot = self.actor.frames[group.frames[0]].pivot;
                    given_shape(given).map(|geometry| Some(plain(geometry.translated(-pivot.x, -pivot.y))))
                }
                (Source::Along(_), _) => self.strip(group).map(|geometry| geometry.map(plain)),
            };
            Some(fitted.map(|fitted| fitted.map(|fitted| shape_fits(spec, &fitted, &group.recipe))))
        };
        let fitted: Vec<_> = groups.par_iter().zip(&held).with_max_len(FRAMES_AT_ONCE).map(together).collect();
        for (group, result) in groups.iter().zip(fitted) {
            for &frame in group.frames.iter().filter(|_| result.is_some()) {
                if let Some(result) = &result {
                    self.settle(frame, group.shape, result.clone(), &mut problems);
                }
            }
        }
        problems.or(())
    }

    /// Goes through the frames: fits what is fitted frame by frame, and lays over each other what is held.
    fn fit_frames(
        &self,
        groups: &[&FitGroup],
        held: &[Option<HeldArt>],
        wanted: &[Vec<usize>],
        progress: &dyn Progress,
    ) -> Result<Vec<FrameResult>, Problems> {
        let gallery = self.actor.gallery();
        let frames: Vec<usize> = (0..wanted.len()).filter(|frame| !wanted[*frame].is_empty()).collect();
        progress.expect(frames.len());
        let fit = |&frame: &usize| -> Result<FrameResult, Problem> {
            let loaded = &self.actor.frames[frame];
            let selections = FrameSelections::new(loaded, &gallery);
            let mut results = Vec::new();
            for &index in &wanted[frame] {
                let spec = &self.actor.shapes[groups[index].shape];
                let Some(fitting) = self.recipe(groups[index]) else {
                    continue;
                };
                let selected = selections.of(&fitting)?;
                match &held[index] {
                    Some(held) => held.add(&selected, loaded.pivot),
                    None if groups[index].frames.len() == 1 => {
                        let shape = match fit_selection(&selected, &fitting, loaded.pivot, self.actor.faces(frame)) {
                            Ok(fitted) => Ok(Some(ShapeFits {
                                quality: quality(&fitted.geometry, loaded.pivot, &selected),
                                ..shape_fits(spec, &fitted, &groups[index].recipe)
                            })),
                            Err(FitError::NothingSelected) => Ok(None),
                            Err(error) => Err(error),
                        };
                        results.push((groups[index].shape, shape));
                    }
                    None => {}
                }
            }
            progress.done(1);
            Ok((frame, results))
        };
        let fitted: Vec<Result<FrameResult, Problem>> =
            frames.par_iter().with_max_len(FRAMES_AT_ONCE).map(fit).collect();
        let mut problems = Problems::default();
        let results = fitted.into_iter().filter_map(|result| problems.take(result.map_err(Problems::from))).collect();
        problems.or(results)
    }

    /// How a group is fitted: as its shape says, and where that is like another with the other's width and foot.
    fn recipe(&self, group: &FitGroup) -> Option<Fitting> {
        let spec = &self.actor.shapes[group.shape];
        let Source::Fitted(fitting) = &spec.source else { return None };
        let mut fitting = fitting.clone();
        if let Some(like) = &spec.like {
            let base = self.actor.shapes.iter().position(|shape| shape.name == *like)?;
            let made = self.made.iter().find_map(|shapes| shapes[base].as_ref());
            let bounds = made.and_then(|(made, _)| made.geometry().ok()?.bounds())?;
            let pivot = self.actor.frames[group.frames[0]].pivot;
            let (left, right, bottom) = (bounds.x0 + pivot.x, bounds.x1 + pivot.x, bounds.y1 + pivot.y);
            fitting.sides =
                Sides { left: Some(left), right: Some(right), bottom: Some(bottom), width: None, ..fitting.sides };
            fitting.grounded = false;
            if fitting.sides.height.is_none() && bounds.y1 - bounds.y0 > 0.0 {
                // As high as the art, and no higher than the one it is like.
                fitting.goal =
                    if fitting.kind == Kind::Box { fitting.goal } else { finitor_core::fit::FitGoal::Balance };
            }
            fitting.symmetric = false;
        }
        Some(fitting)
    }

    /// The strip of a group along the shape it follows.
    fn strip(&self, group: &FitGroup) -> Result<Option<Geometry>, FitError> {
        let Source::Along(along) = &self.actor.shapes[group.shape].source else {
            return Ok(None);
        };
        let base = self.actor.shapes.iter().position(|shape| shape.name == along.shape);
        let followed = base.and_then(|base| self.made[group.frames[0]][base].as_ref());
        let Some((followed, _)) = followed else {
            return Ok(None);
        };
        strip_along(&followed.geometry()?, along, self.actor.faces(group.frames[0]))
    }

    /// Takes over the result of a fit.
    fn settle(
        &mut self,
        frame: usize,
        shape: usize,
        result: Result<Option<ShapeFits>, FitError>,
        problems: &mut Problems,
    ) {
        let place = || format!("{} on {}", self.actor.shapes[shape].name, self.actor.frame_name(frame));
        match result {
            Ok(fitted) => {
                if fitted.is_none() && !self.written(frame, shape).is_some_and(|old| self.stays_by_hand(shape, old)) {
                    let animation = &self.actor.animations[self.actor.frames[frame].animation].name;
                    if self.actor.empty_animations.contains(animation) {
                        return;
                    }
                    self.notes.push(format!("{}: nothing to follow, or paint, region and tidying (min_thickness, min_island, inset) leave no pixel, so no shape", place()));
                    return;
                }
                self.put(frame, shape, fitted, problems);
            }
            Err(error) => {
                let message = format!("{} cannot be fitted: {error}", place());
                let known = problems.0.iter().any(|problem| problem.message == message);
                if !known {
                    let place = Some(self.actor.shapes[shape].place.clone());
                    problems.0.push(Problem { place, ..Problem::of_file(&self.actor.path, message) });
                }
            }
        }
    }

    /// Measures, against each frame's own selection, the shapes that have no quality yet: those held over several frames,
    /// and those made by hand.
    fn measure(&mut self, groups: &[FitGroup], progress: &dyn Progress) -> Result<(), Problems> {
        let unmeasured = |frame: usize, shape: usize| {
            let made = self.made[frame][shape].as_ref();
            made.is_some_and(|(made, status)| made.quality.is_none() && *status != Status::Unchanged)
        };
        let fitted = |shape: usize| match &self.actor.shapes[shape].source {
            Source::Fitted(fitting) => Some(fitting),
            _ => None,
        };
        let mut wanted: Vec<(usize, Vec<(usize, &Fitting)>)> = Vec::new();
        let all: BTreeSet<(usize, usize)> =
            groups.iter().flat_map(|group| group.frames.iter().map(|frame| (*frame, group.shape))).collect();
        for (frame, shape) in all.into_iter().filter(|(frame, shape)| unmeasured(*frame, *shape)) {
            let Some(fitting) = fitted(shape) else {
                continue;
            };
            match wanted.last_mut() {
                Some((last, shapes)) if *last == frame => shapes.push((shape, fitting)),
                _ => wanted.push((frame, vec![(shape, fitting)])),
            }
        }
        let gallery = self.actor.gallery();
        progress.expect(wanted.len());
        let measured: Vec<Result<Vec<_>, Problem>> = wanted
            .par_iter()
            .with_max_len(FRAMES_AT_ONCE)
            .map(|(frame, shapes)| {
                let loaded = &self.actor.frames[*frame];
                let selections = FrameSelections::new(loaded, &gallery);
                let qualities = shapes.iter().map(|(shape, fitting)| {
                    let (made, selected) = (self.made[*frame][*shape].as_ref(), selections.of(fitting)?);
                    let geometry = made.and_then(|(made, _)| made.geometry().ok());
                    let measured = geometry.and_then(|geometry| quality(&geometry, loaded.pivot, &selected));
                    Ok((*frame, *shape, measured))
                });
                let qualities = qualities.collect();
                progress.done(1);
                qualities
            })
            .collect();
        let mut problems = Problems::default();
        for result in measured {
            for (frame, shape, quality) in problems.take(result.map_err(Problems::from)).unwrap_or_default() {
                if let Some((made, _)) = &mut self.made[frame][shape] {
                    made.quality = quality;
                }
            }
        }
        problems.or(())
    }
}
