//! A look at every frame's pixels: what is remembered of them once they are let go.

use crate::anchors::AnchorSpec;
use crate::animation_toml::FramePlan;
use crate::gallery::Gallery;
use finitor_core::art::{Colour, Imprint, Run, View};
use finitor_core::fit::FrameArt;
use finitor_core::{Facing, Point};
use rayon::prelude::*;
use std::collections::BTreeMap;
use std::sync::Arc;

/// Alpha from which a pixel counts where no shape says otherwise: for pivots, anchors and the feet of checks.
pub(crate) const USUAL_ALPHA: u8 = 128;

/// What is known of a frame without its pixels.
#[derive(Clone, Debug)]
pub(crate) struct FrameFacts {
    /// Hash of the pixels and of the part map's.
    pub(crate) art_hash: String,
    /// The opaque pixels and their colours.
    pub(crate) imprint: Arc<Imprint>,
    /// Colours of the part map under opaque pixels, ascending; empty unless sought.
    pub(crate) paints: Vec<Colour>,
    /// By anchor: where its landmark or colour is, cell px.
    pub(crate) found: Vec<Option<Point>>,
}

impl FrameFacts {
    pub(crate) fn size(&self) -> (u32, u32) {
        self.imprint.size()
    }
}

/// What is looked for in every frame.
pub(crate) struct Wanted<'a> {
    pub(crate) anchors: &'a [AnchorSpec],
    /// Whether the colours of part maps are wanted.
    pub(crate) paints: bool,
    /// The way the art is drawn.
    pub(crate) drawn: Facing,
}

/// Told how far long work has come; called from several threads.
pub trait Progress: Sync {
    /// Adds steps to be done.
    fn expect(&self, steps: usize);
    /// Counts steps as done.
    fn done(&self, steps: usize);
}

/// Nobody wants to know.
#[derive(Clone, Copy, Debug)]
pub struct NoProgress;

impl Progress for NoProgress {
    fn expect(&self, _: usize) {}
    fn done(&self, _: usize) {}
}

/// Frames or pictures that a thread takes on at once: few, so that at the end none waits long for another.
pub const FRAMES_AT_ONCE: usize = 8;

/// The facts of a file's frames by index, or what is wrong with it.
type Looked = Result<Vec<(usize, FrameFacts)>, (usize, String)>;

/// Looks at every frame once, those that use the same pixels together; on all threads of the pool. Files are gone through
/// one by one, each decoded once and let go.
///
/// # Errors
/// By frame, in the frames' order, what is wrong with its picture; the first frame of each file alone.
pub(crate) fn survey(
    plans: &[FramePlan],
    gallery: &Gallery,
    sought: &Wanted<'_>,
    progress: &dyn Progress,
) -> Result<Vec<FrameFacts>, Vec<(usize, String)>> {
    // The first frame of each source stands for all. Sources of one file share its entry, whose place tells files apart
    // faster than its path; no result depends on the order of places.
    let mut firsts: BTreeMap<_, usize> = BTreeMap::new();
    let mut stands: Vec<usize> = Vec::with_capacity(plans.len());
    for (index, plan) in plans.iter().enumerate() {
        let source = &plan.source;
        let rect = source.rect.map(|rect| (rect.x, rect.y, rect.width, rect.height));
        stands.push(*firsts.entry((Arc::as_ptr(&source.file), source.image, rect)).or_insert(index));
    }
    let mut files: Vec<Vec<usize>> = Vec::new();
    let mut last = None;
    for ((file, ..), index) in &firsts {
        match files.last_mut() {
            Some(frames) if last == Some(file) => frames.push(*index),
            _ => files.push(vec![*index]),
        }
        last = Some(file);
    }
    files.sort_unstable();
    progress.expect(firsts.len());
    let look = |&index: &usize| {
        let looked = gallery.look(&plans[index].source, |picture, parts| facts(picture, parts, sought));
        progress.done(1);
        looked.map(|facts| (index, facts)).map_err(|problem| (index, problem.message))
    };
    let look_at_file = |frames: &Vec<usize>| -> Looked {
        let looked = match frames.as_slice() {
            [one] => look(one).map(|facts| vec![facts]),
            several => several.par_iter().with_max_len(FRAMES_AT_ONCE).map(look).collect(),
        };
        gallery.release(&plans[frames[0]].source);
        looked
    };
    let looked: Vec<Looked> = files.par_iter().with_max_len(FRAMES_AT_ONCE).map(look_at_file).collect();
    let (mut known, mut problems) = (BTreeMap::new(), Vec::new());
    for result in looked {
        match result {
            Ok(facts) => known.extend(facts),
            Err(problem) => problems.push(problem),
        }
    }
    problems.sort();
    if problems.is_empty() { Ok(stands.iter().map(|first| known[first].clone()).collect()) } else { Err(problems) }
}

fn facts(picture: View<'_>, parts: Option<View<'_>>, sought: &Wanted<'_>) -> FrameFacts {
    let [visible, runs] = picture.runs([1, USUAL_ALPHA]);
    let Wanted { anchors, drawn, .. } = *sought;
    let paints = parts.filter(|_| sought.paints).map_or_else(Vec::new, |parts| paints(parts, &runs));
    let found = match anchors.iter().any(AnchorSpec::is_sought) {
        true => {
            let art = FrameArt { picture: picture.to_picture(), parts: parts.map(|parts| parts.to_picture()) };
            let opaque = art.picture.opaque(USUAL_ALPHA);
            anchors.iter().map(|anchor| anchor.found(&art, &opaque, drawn)).collect()
        }
        false => vec![None; anchors.len()],
    };
    FrameFacts {
        art_hash: hash_of_runs(picture, &visible, parts),
        imprint: Arc::new(Imprint::new(picture, parts, &runs)),
        paints,
        found,
    }
}

/// The colours of a part map over runs of pixels, ascending.
fn paints(parts: View<'_>, runs: &[Run]) -> Vec<Colour> {
    let mut found: Vec<Colour> = Vec::new();
    for run in runs {
        for &[r, g, b, alpha] in &parts.row(run.row)[run.start as usize..run.end as usize] {
            let colour = Colour([r, g, b]);
            if alpha > 0 && found.last() != Some(&colour) && !found.contains(&colour) {
                found.push(colour);
            }
        }
    }
    found.sort_unstable();
    found
}

/// A short hash of a frame's pixels and part map: of what is seen of them, not of the colours that wholly transparent
/// pixels happen to hold.
pub fn art_hash(picture: View<'_>, parts: Option<View<'_>>) -> String {
    hash_of_runs(picture, &picture.opaque_runs(1), parts)
}

fn hash_of_runs(picture: View<'_>, visible: &[Run], parts: Option<View<'_>>) -> String {
    let of_parts = parts.map(|parts| parts.opaque_runs(1));
    let count: usize = visible.iter().map(|run| run.len() as usize).sum();
    let mut seen = Vec::with_capacity(8 * (visible.len() + 1) + 4 * count);
    for (layer, runs) in [(Some(picture), Some(visible)), (parts, of_parts.as_deref())] {
        let (Some(layer), Some(runs)) = (layer, runs) else {
            continue;
        };
        seen.extend_from_slice([layer.width(), layer.height()].map(u32::to_le_bytes).as_flattened());
        for run in runs {
            // Sides are below 2^16 px, see MAX_SIDE.
            let place = u64::from(run.row) << 32 | u64::from(run.start) << 16 | u64::from(run.end);
            seen.extend_from_slice(&place.to_le_bytes());
            seen.extend_from_slice(layer.row(run.row)[run.start as usize..run.end as usize].as_flattened());
        }
    }
    short_hash(&seen)
}

/// A hash of 64 bits (XXH3 by Yann Collet) as 16 digits: enough to tell a project's frames and recipes apart.
pub fn short_hash(bytes: &[u8]) -> String {
    format!("{:016x}", xxhash_rust::xxh3::xxh3_64(bytes))
}
