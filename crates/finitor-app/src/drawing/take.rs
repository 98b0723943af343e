//! Pictures of a take: a tick, some ticks side by side or as a moving file, and the ways that everyone went.

use super::arts::{Arts, Cast};
use super::{Drawing, PictureWishes};
use crate::checked_take::CheckedTake;
use crate::failure::Failure;
use crate::project::OpenProject;
use finitor_core::actor::Actor;
use finitor_core::check::Report;
use finitor_core::finding::{Finding, Span};
use finitor_core::stage::Stage;
use finitor_core::take::{RecordedTick, Recording, Sample, WARPED};
use finitor_core::{Point, Rect};
use finitor_draw::{
    MomentCell, MomentsSheet, PathSheet, Scene, StageView, Walk, moment_page, moments_sheet, path_sheet, stage_view,
};
use finitor_files::{ActorFile, STANDARD_INPUT, TakeInFile};
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

/// A take to draw.
#[derive(Clone, Copy)]
pub struct TakePicture<'m> {
    /// The project.
    pub project: &'m OpenProject<'m>,
    /// Its actor files.
    pub files: &'m [&'m ActorFile],
    /// Those with their fits.
    pub actors: &'m [Actor],
    /// The stage that the take was recorded on.
    pub stage: &'m Stage,
    /// The take.
    pub recording: &'m Recording,
    /// The same, checked.
    pub take: &'m CheckedTake,
    /// Scale, lines and figures.
    pub wishes: PictureWishes,
}

/// Moments are at most this many: more make no picture.
const MOST_MOMENTS: usize = 240;

impl<'m> TakePicture<'m> {
    fn cast(&self) -> Cast<'m> {
        Cast { files: self.files, actors: self.actors }
    }

    /// The stage at a tick, that of the worst finding or the first where it is `None`, with its findings then, and actors on some
    /// ticks before and after.
    ///
    /// # Errors
    /// A tick that the take does not have, and pictures that cannot be read.
    pub fn moment(&self, tick: Option<u64>, onion: u64, folder: &Path) -> Result<Drawing, Failure> {
        let TakePicture { stage, take, .. } = *self;
        let wanted = tick.or_else(|| worst_tick(&take.report));
        let RecordedTick { tick, samples } = moment_at(self.recording, take, wanted)?;
        let around = tick.saturating_sub(onion)..=tick + onion;
        let others: Vec<&[Sample]> =
            around.filter(|other| *other != tick).filter_map(|other| Some(self.recording.at(other)?.samples)).collect();
        let arts = Arts::of(self.cast(), samples.iter().chain(others.iter().copied().flatten()))?;
        let ghosts = others.iter().flat_map(|samples| arts.on_stage(self.cast(), samples)).collect();
        let name = picture_name(take);
        let title = format!("{} at {} of {name}", stage.name, self.tick_words(tick));
        let scene = stage_view(&StageView {
            title,
            actors: arts.on_stage(self.cast(), samples),
            findings: self.findings_at(tick),
            scale: self.wishes.scale,
            ghosts,
            aids: self.wishes.aids,
            ..StageView::of(stage)
        });
        Ok(Drawing { stem: folder.join(format!("{}-{name}-{tick}", stage.name)), scene })
    }

    /// Ticks side by side.
    ///
    /// # Errors
    /// Ticks that the take does not have, more of them than make a picture, and pictures that cannot be read.
    pub fn strip(&self, ticks: Span, folder: &Path) -> Result<Drawing, Failure> {
        let moments = self.moments(ticks)?;
        let arts = Arts::of(self.cast(), moments.iter().flat_map(|moment| moment.samples))?;
        let scene = moments_sheet(&self.sheet(&moments, &arts, ticks));
        Ok(Drawing { stem: self.stem_of(ticks, folder), scene })
    }

    /// Ticks as a page each, all of one size.
    ///
    /// # Errors
    /// As [`TakePicture::strip`].
    pub fn pages(&self, ticks: Span) -> Result<Vec<Scene>, Failure> {
        let moments = self.moments(ticks)?;
        let arts = Arts::of(self.cast(), moments.iter().flat_map(|moment| moment.samples))?;
        let sheet = self.sheet(&moments, &arts, ticks);
        Ok((0..moments.len()).map(|moment| moment_page(&sheet, moment)).collect())
    }

    /// The path without its ending of what shows these ticks.
    pub fn stem_of(&self, ticks: Span, folder: &Path) -> PathBuf {
        let (stage, name) = (&self.stage.name, picture_name(self.take));
        folder.join(format!("{stage}-{name}-{}-{}", ticks.first, ticks.last))
    }

    /// The ways of all over the whole take, with its findings.
    pub fn path(&self, folder: &Path) -> Drawing {
        let TakePicture { stage, take, .. } = *self;
        let mut walks: BTreeMap<&str, Vec<Vec<Point>>> = BTreeMap::new();
        let mut last: BTreeMap<&str, u64> = BTreeMap::new();
        for RecordedTick { tick, samples } in self.recording.ticks() {
            for sample in samples {
                let stretches = walks.entry(&sample.label).or_default();
                let goes_on = last.insert(&sample.label, tick) == tick.checked_sub(1) && !sample.has_state(WARPED);
                if !goes_on || stretches.is_empty() {
                    stretches.push(Vec::new());
                }
                if let Some(stretch) = stretches.last_mut() {
                    stretch.push(sample.at);
                }
            }
        }
        let walks = walks.into_iter().map(|(label, stretches)| Walk { label: label.to_string(), stretches });
        let name = picture_name(take);
        let mut findings: Vec<&Finding> = take.report.roots().into_iter().map(|root| root.finding).collect();
        findings.sort_by_key(|finding| finding.in_take().map(|at| at.worst.tick));
        let scene = path_sheet(&PathSheet {
            title: format!("Ways over {} in {name}", stage.name),
            stage,
            walks: walks.collect(),
            findings,
            scale: self.wishes.scale,
            aids: self.wishes.aids,
        });
        Drawing { stem: folder.join(format!("{}-{name}-path", stage.name)), scene }
    }

    /// The ticks of a span that the take has.
    fn moments(&self, ticks: Span) -> Result<Vec<RecordedTick<'m>>, Failure> {
        let within = |moment: &RecordedTick<'_>| ticks.first <= moment.tick && moment.tick <= ticks.last;
        let moments: Vec<RecordedTick<'_>> = self.recording.ticks().filter(within).take(MOST_MOMENTS + 1).collect();
        if moments.is_empty() {
            moment_at(self.recording, self.take, Some(ticks.first))?;
        }
        if moments.len() > MOST_MOMENTS {
            let message = format!("ticks {} to {} are more than {MOST_MOMENTS} pictures", ticks.first, ticks.last);
            return Err(Failure::Usage(format!("{message}; name fewer, or see them all in `finitor report`")));
        }
        Ok(moments)
    }

    fn sheet<'a>(&'a self, moments: &[RecordedTick<'a>], arts: &'a Arts, ticks: Span) -> MomentsSheet<'a> {
        let cells = moments.iter().map(|moment| MomentCell {
            title: self.tick_words(moment.tick),
            actors: arts.on_stage(self.cast(), moment.samples),
            findings: self.findings_at(moment.tick),
        });
        MomentsSheet {
            title: format!("{} in {}", self.stage.name, picture_name(self.take)),
            stage: self.stage,
            area: self.area(moments, ticks),
            moments: cells.collect(),
            scale: self.wishes.scale,
            aids: self.wishes.aids,
        }
    }

    /// The part of the stage where something goes on: around those who have findings, else around those who move, else around all.
    fn area(&self, moments: &[RecordedTick<'_>], ticks: Span) -> Rect {
        /// What is shown around them, px.
        const AROUND: f64 = 24.0;
        let found = self.take.report.findings.iter();
        let found = found.filter(|finding| finding.in_take().is_some_and(|at| at.ticks.meets(ticks)));
        let named: Vec<&str> = found.map(|finding| finding.subject.as_str()).collect();
        let mut boxes: BTreeMap<&str, Rect> = BTreeMap::new();
        let mut moved: BTreeMap<&str, Rect> = BTreeMap::new();
        for sample in moments.iter().flat_map(|moment| moment.samples) {
            let pose = self.actors[sample.actor.0].pose(sample.animation, sample.frame, sample.facing);
            let own = pose.shapes.iter().map(|shape| shape.bounds()).fold(pose.picture, |all, own| all.union(own));
            let own = own + sample.at.to_vec2();
            let known = boxes.entry(&sample.label).or_insert(own);
            *known = known.union(own);
            let at = Rect::from_points(sample.at, sample.at);
            let known = moved.entry(&sample.label).or_insert(at);
            *known = known.union(at);
        }
        let union = |wanted: &dyn Fn(&str) -> bool| {
            boxes.iter().filter(|(label, _)| wanted(label)).map(|(_, own)| *own).reduce(|all, own| all.union(own))
        };
        let moves = |label: &str| moved.get(label).is_some_and(|at| at.width() + at.height() > 0.0);
        let stage = self.stage.area();
        let area = union(&|label| named.contains(&label)).or_else(|| union(&moves)).or_else(|| union(&|_| true));
        // Who is far off the stage is not followed there.
        let near = stage.inflate(4.0 * AROUND, 4.0 * AROUND);
        let area = area.map_or(stage, |area| area.inflate(AROUND, AROUND).intersect(near));
        let area = if area.area() > 0.0 { area } else { stage };
        Rect::new(area.x0.floor(), area.y0.floor(), area.x1.ceil(), area.y1.ceil())
    }

    pub(super) fn tick_words(&self, tick: u64) -> String {
        format!("tick {tick} ({:.2} s)", tick as f64 / self.project.project.tick_rate)
    }

    /// The findings of a tick, the worst first.
    fn findings_at(&self, tick: u64) -> Vec<&'m Finding> {
        let is_then = |finding: &&Finding| finding.in_take().is_some_and(|at| at.ticks.meets(Span::at(tick)));
        let mut findings: Vec<&Finding> = self.take.report.findings.iter().filter(is_then).collect();
        findings.sort_by(|a, b| b.severity.cmp(&a.severity).then(b.figure.total_cmp(&a.figure)));
        findings
    }
}

/// What pictures of a take are called after: its file, and its name there where the file holds several.
pub(super) fn picture_name(take: &CheckedTake) -> String {
    if take.path == Path::new(STANDARD_INPUT) {
        return "input".to_string();
    }
    let stem = |path: &Path| path.file_stem().unwrap_or_default().to_string_lossy().into_owned();
    let Some(TakeInFile { file, take }) = TakeInFile::of(&take.path) else { return stem(&take.path) };
    let plain = |letter: char| if letter.is_alphanumeric() || "-_.".contains(letter) { letter } else { '_' };
    format!("{}-{}", stem(&file), take.chars().map(plain).collect::<String>())
}

fn worst_tick(report: &Report) -> Option<u64> {
    let worst = report.findings.iter().max_by(|a, b| {
        let earlier = || b.in_take().map(|at| at.ticks).cmp(&a.in_take().map(|at| at.ticks));
        a.severity.cmp(&b.severity).then(a.figure.total_cmp(&b.figure)).then_with(earlier)
    });
    worst.and_then(Finding::in_take).map(|at| at.worst.tick)
}

/// A tick of the take, or its first one.
fn moment_at<'r>(
    recording: &'r Recording,
    take: &CheckedTake,
    wanted: Option<u64>,
) -> Result<RecordedTick<'r>, Failure> {
    let found = wanted.map_or_else(|| recording.ticks().next(), |tick| recording.at(tick));
    if let Some(found) = found {
        return Ok(found);
    }
    let (name, wanted) = (take.path.display(), wanted.unwrap_or(0));
    Err(Failure::Usage(match take.span {
        Some(span) => {
            format!("{name} has no tick {wanted}; it has {} to {}, and ticks may be missing", span.first, span.last)
        }
        None => format!("{name} has no ticks"),
    }))
}
