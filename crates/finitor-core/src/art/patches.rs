//! Pixels that hang together.

use super::{Mask, Run};

/// The patches of a mask: sets of pixels joined side by side. Pixels that touch only at a corner are apart.
///
/// # Complexity
/// O(pixels / 64 + runs), to within the inverse of Ackermann's function.
///
/// # Source
/// Sets that are joined and looked up: Robert Endre Tarjan, "Efficiency of a good but not linear set union algorithm",
/// Journal of the ACM 22 (1975).
pub(crate) struct Patches {
    runs: Vec<Run>,
    /// By run: its patch.
    labels: Vec<u32>,
    patches: Vec<Patch>,
    /// Where each row's runs begin, and the end of the last.
    starts: Vec<u32>,
}

/// One patch.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Patch {
    pub(crate) pixels: u64,
    /// Whether it touches a side of the cell.
    pub(crate) at_border: bool,
}

impl Patches {
    pub(crate) fn of(mask: &Mask) -> Patches {
        let runs = mask.runs();
        let mut parents: Vec<u32> = (0..runs.len() as u32).collect();
        let mut starts = Vec::with_capacity(mask.height() as usize + 1);
        let (mut above, mut at) = (0, 0);
        for row in 0..mask.height() {
            starts.push(at as u32);
            let first = at;
            // Runs of the row above, from the left, that may reach under this one.
            let end_above = first;
            while at < runs.len() && runs[at].row == row {
                while above < end_above && runs[above].end <= runs[at].start {
                    above += 1;
                }
                let mut touching = above;
                while touching < end_above && runs[touching].start < runs[at].end {
                    join(&mut parents, at as u32, touching as u32);
                    touching += 1;
                }
                // The last one may reach under the next run too.
                above = touching.saturating_sub(1).max(above);
                at += 1;
            }
            above = first;
        }
        starts.push(at as u32);
        let mut labels = vec![u32::MAX; runs.len()];
        let mut patches: Vec<Patch> = Vec::new();
        for index in 0..runs.len() {
            let root = find(&mut parents, index as u32) as usize;
            if labels[root] == u32::MAX {
                labels[root] = patches.len() as u32;
                patches.push(Patch { pixels: 0, at_border: false });
            }
            labels[index] = labels[root];
            let (run, patch) = (runs[index], &mut patches[labels[root] as usize]);
            patch.pixels += u64::from(run.len());
            patch.at_border |=
                run.row == 0 || run.row + 1 == mask.height() || run.start == 0 || run.end == mask.width();
        }
        Patches { runs, labels, patches, starts }
    }

    /// The runs, row by row from the top, each with its patch.
    pub(crate) fn runs(&self) -> impl Iterator<Item = (Run, Patch)> + '_ {
        self.runs.iter().zip(&self.labels).map(|(run, label)| (*run, self.patches[*label as usize]))
    }

    /// The number of the patch that holds a pixel; `None` where none does.
    pub(crate) fn at(&self, x: u32, y: u32) -> Option<u32> {
        let row = *self.starts.get(y as usize)? as usize..*self.starts.get(y as usize + 1)? as usize;
        let index = row.start + self.runs[row.clone()].partition_point(|run| run.end <= x);
        (index < row.end && self.runs[index].start <= x).then(|| self.labels[index])
    }
}

fn find(parents: &mut [u32], mut of: u32) -> u32 {
    while parents[of as usize] != of {
        // Halving the path keeps later searches short.
        let over = parents[parents[of as usize] as usize];
        parents[of as usize] = over;
        of = over;
    }
    of
}

/// Joins two sets under the lower root, so that every root is the first run of its patch.
fn join(parents: &mut [u32], one: u32, other: u32) {
    let (one, other) = (find(parents, one), find(parents, other));
    parents[one.max(other) as usize] = one.min(other);
}
