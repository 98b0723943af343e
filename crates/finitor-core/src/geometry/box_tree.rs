//! Boxes in a tree, to find those that meet another without looking at all of them.

use super::{Rect, rects_meet};

/// Boxes in a leaf at most.
const LEAF: usize = 4;

/// A part of the tree, in the order of a walk: an inner node's first half follows it, its second half is at `next`.
#[derive(Clone, Copy, Debug)]
struct Node {
    bounds: Rect,
    /// For a leaf where its boxes begin among all; for an inner node its second half.
    next: u32,
    /// The boxes of a leaf; none in an inner node.
    count: u32,
}

/// A tree over boxes that do not move.
#[derive(Clone, Debug)]
pub(crate) struct BoxTree<I> {
    nodes: Vec<Node>,
    boxes: Vec<(Rect, I)>,
}

impl<I: Copy + Ord> BoxTree<I> {
    /// A tree over boxes, each known by an index.
    ///
    /// # Complexity
    /// O(n log2 n): halved at the median of the longer side, again and again.
    pub(crate) fn new(boxes: impl Iterator<Item = (Rect, I)>) -> BoxTree<I> {
        let mut tree = BoxTree { nodes: Vec::new(), boxes: boxes.collect() };
        let mut all = std::mem::take(&mut tree.boxes);
        if !all.is_empty() {
            tree.build(&mut all, 0);
        }
        tree.boxes = all;
        tree
    }

    fn build(&mut self, boxes: &mut [(Rect, I)], first: usize) {
        let bounds = boxes[1..].iter().fold(boxes[0].0, |all, (rect, _)| all.union(*rect));
        let node = self.nodes.len();
        self.nodes.push(Node { bounds, next: first as u32, count: boxes.len() as u32 });
        if boxes.len() <= LEAF {
            return;
        }
        let middle = |rect: &Rect| if bounds.width() > bounds.height() { rect.x0 + rect.x1 } else { rect.y0 + rect.y1 };
        boxes.sort_by(|a, b| middle(&a.0).total_cmp(&middle(&b.0)).then(a.1.cmp(&b.1)));
        let half = boxes.len() / 2;
        let (one, other) = boxes.split_at_mut(half);
        self.build(one, first);
        self.nodes[node] = Node { bounds, next: self.nodes.len() as u32, count: 0 };
        self.build(other, first + half);
    }

    /// Adds the indices of all boxes that meet one, in ascending order, to a list.
    ///
    /// # Complexity
    /// O(log n + k) as a rule, k boxes found.
    pub(crate) fn find(&self, rect: Rect, found: &mut Vec<I>) {
        let begun = found.len();
        let mut at = 0;
        // The second halves yet to be looked at: as many as the tree is deep.
        let (mut later, mut waiting) = ([0_u32; 64], 0);
        while at < self.nodes.len() {
            let node = self.nodes[at];
            let meets = rects_meet(node.bounds, rect);
            if meets && node.count == 0 {
                later[waiting] = node.next;
                waiting += 1;
                at += 1;
                continue;
            }
            if meets {
                let own = &self.boxes[node.next as usize..(node.next + node.count) as usize];
                found.extend(own.iter().filter(|(own, _)| rects_meet(*own, rect)).map(|(_, index)| *index));
            }
            if waiting == 0 {
                break;
            }
            waiting -= 1;
            at = later[waiting] as usize;
        }
        found[begun..].sort_unstable();
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::dice::Dice;

    #[test]
    fn what_is_found_is_what_meets() {
        // Boxes of all sizes, many of them alike, touching and in one another.
        let mut dice = Dice::new(7);
        let mut next = |most: u64| dice.below(most) as f64;
        for count in [0, 1, 4, 5, 9, 100, 1000] {
            let boxes: Vec<Rect> = (0..count)
                .map(|_| {
                    let (x, y) = (next(200), next(100));
                    Rect::new(x, y, x + next(30), y + next(9))
                })
                .collect();
            let tree = BoxTree::new(boxes.iter().copied().zip(0..));
            for _ in 0..200 {
                let (x, y) = (next(220) - 10.0, next(120) - 10.0);
                let rect = Rect::new(x, y, x + next(40), y + next(40));
                let mut found = vec![77];
                tree.find(rect, &mut found);
                let all = boxes.iter().zip(0..).filter(|(own, _)| rects_meet(**own, rect)).map(|(_, i)| i);
                assert_eq!(found, [77].into_iter().chain(all).collect::<Vec<u32>>());
            }
        }
    }
}
