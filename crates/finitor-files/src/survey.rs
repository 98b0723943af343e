//! A look at every frame's pixels: what is remembered of them once they are let go.

use crate::anchors::AnchorSpec;
use crate::animation_toml::FramePlan;
use crate::gallery::Gallery;
use finitor_core::art::{Picture, Silhouette};
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
    /// The opaque pixels.
    pub(crate) silhouette: Arc<Silhouette>,
    /// By anchor: where its landmark or colour is, cell px.
    pub(crate) found: Vec<Option<Point>>,
}

impl FrameFacts {
    pub(crate) fn size(&self) -> (u32, u32) {
        self.silhouette.size()
    }
}

/// Told how far long work has come; called from several threads.
pub trait Progress: Sync {
    /// So many more steps are to be done.
    fn expect(&self, steps: usize);
    /// So many steps are done.
    fn done(&self, steps: usize);
}

/// Nobody wants to know.
#[derive(Clone, Copy, Debug)]
pub struct NoProgress;

impl Progress for NoProgress {
    fn expect(&self, _: usize) {}
    fn done(&self, _: usize) {}
}

/// Looks at every frame once, those that use the same pixels together; on all threads of the pool.
///
/// # Errors
/// By frame, in the frames' order, what is wrong with its picture.
pub(crate) fn survey(
    plans: &[FramePlan],
    gallery: &Gallery,
    anchors: &[AnchorSpec],
    drawn: Facing,
    progress: &dyn Progress,
) -> Result<Vec<FrameFacts>, Vec<(usize, String)>> {
    // The first frame of each source stands for all.
    let mut firsts: BTreeMap<_, usize> = BTreeMap::new();
    let mut stands: Vec<usize> = Vec::with_capacity(plans.len());
    for (index, plan) in plans.iter().enumerate() {
        let source = &plan.source;
        let rect = source.rect.map(|rect| (rect.x, rect.y, rect.width, rect.height));
        stands.push(*firsts.entry((&source.file.path, source.image, rect, plan.animation_key())).or_insert(index));
    }
    let mut distinct: Vec<usize> = firsts.into_values().collect();
    distinct.sort_unstable();
    progress.expect(distinct.len());
    let look = |&index: &usize| {
        let art = gallery.frame(&plans[index].source).map_err(|problem| (index, problem.message));
        progress.done(1);
        art.map(|art| (index, facts(&art, anchors, drawn)))
    };
    let looked: Vec<Result<(usize, FrameFacts), (usize, String)>> = distinct.par_iter().map(look).collect();
    let (mut known, mut problems) = (BTreeMap::new(), Vec::new());
    for result in looked {
        match result {
            Ok((index, facts)) => drop(known.insert(index, facts)),
            Err(problem) => problems.push(problem),
        }
    }
    if problems.is_empty() { Ok(stands.iter().map(|first| known[first].clone()).collect()) } else { Err(problems) }
}

impl FramePlan {
    /// Frames of one picture may differ in their part maps and keys.
    fn animation_key(&self) -> (Option<&std::path::Path>, Option<[u8; 5]>) {
        let key = self.source.file.key.map(|key| {
            let [r, g, b] = key.colour.map_or([0; 3], |colour| colour.0);
            [key.tolerance, u8::from(key.colour.is_some()), r, g, b]
        });
        (self.source.parts.as_ref().map(|parts| parts.path.as_path()), key)
    }
}

fn facts(art: &FrameArt, anchors: &[AnchorSpec], drawn: Facing) -> FrameFacts {
    let opaque = art.picture.opaque(USUAL_ALPHA);
    FrameFacts {
        art_hash: art_hash(&art.picture, art.parts.as_ref()),
        silhouette: Arc::new(Silhouette::new(&opaque)),
        found: anchors.iter().map(|anchor| anchor.found(art, &opaque, drawn)).collect(),
    }
}

/// A short hash of a frame's pixels and part map.
pub(crate) fn art_hash(picture: &Picture, parts: Option<&Picture>) -> String {
    let mut hasher = blake3::Hasher::new();
    for layer in [Some(picture), parts].into_iter().flatten() {
        hasher.update(&layer.width().to_le_bytes());
        hasher.update(&layer.height().to_le_bytes());
        hasher.update(layer.pixels().as_flattened());
    }
    short_hash(&hasher)
}

/// The first 64 bits of a hash, as 16 digits: enough to tell a project's frames and recipes apart.
pub(crate) fn short_hash(hasher: &blake3::Hasher) -> String {
    hasher.finalize().to_hex()[..16].to_string()
}
