//! The rule book's words, of stages.

use super::rules::RuleText;

pub(super) const OVERLAPPING_SOLIDS: RuleText = RuleText {
    means: "Two solids of a stage lie in one another.",
    matters: "A body at their border is pushed out of both at once, often to two sides; and depths are told twice.",
    measured: "The area that both share, px2, where they are deeper in each other than check.slack.",
    mend: "Move one of them as told, so that they are flush, or draw both as one outline.",
    drawing: "   ____\n  |  __|__\n  |_|##|  |\n    |_____|\n",
};

pub(super) const LEAKY_BOTTOM: RuleText = RuleText {
    means: "A body gets out of a side that the stage holds sealed, the bottom unless `sealed` names others, and meets no hazard \
            zone on the way.",
    matters: "The actor falls or flies for ever and the player waits.",
    measured: "For the body of each actor that starts on the stage, at its least width: every place that its pivot can come to, \
               walking, falling, drifting in the air at will and rising no higher than it jumps ([moves] jump), without meeting a \
               hazard that looks for it, also one that lies outside the border. The figure is the width of the gap in the side, px.",
    mend: "Put a hazard zone over the range given, or close it: `borders` in [stage].",
    drawing: "   ####        ####\n   ####   [ ]  ####\n   ####    v   ####\n   ---- gap  ------\n",
};

pub(super) const LANDING_INSIDE: RuleText = RuleText {
    means: "A warp puts a body that it looks for into a solid that stops it.",
    matters: "The actor arrives stuck, or is thrown out of the wall when the game resolves the overlap.",
    measured: "Each warp's landing, for every actor that it looks for, in every frame with a body and in the facings it may \
               land in, against all solids that the body sees. The figure is the greatest depth, px, where it is more than \
               check.slack.",
    mend: "Set `landing` to the one given, the nearest at which every frame is free.",
    drawing: "   :zone:  __|####\n   :    : |  |#|##\n   :  + : |__|_|##   landing\n",
};

pub(super) const LANDING_BOUNCES: RuleText = RuleText {
    means: "A warp puts an actor where its body still overlaps a warp that takes it back.",
    matters: "It bounces between the two for ever, or until somebody happens to push it out.",
    measured: "Each warp's landing, in every frame with a body and in the facings it may land in, against all warps that look \
               for the body. The figure is how far it must move on, left or right, to leave them all, px. With a cooldown it \
               counts only when the body cannot walk so far at 1 px a tick before it ends.",
    mend: "Move the landing by the figure, to the side named; or give the warp the cooldown named.",
    drawing: "   :zone: :zone:\n   :  ->:-:-> + :   still inside\n   :    : :    :\n",
};

pub(super) const STEEP_SLOPE: RuleText = RuleText {
    means: "A slope of the floor is steeper than an actor that starts on the stage walks on.",
    matters: "It slides down or stops there, and the slope looks like a way.",
    measured: "Each straight stretch of floor against [moves] slope, where it rises more than [moves] step. The figure is its angle, \
               degrees.",
    mend: "Make it as long as told, or upright, so that it is a wall.",
    drawing: "        /###\n       /####   angle\n      /_____\n",
};

pub(super) const LOW_STEP: RuleText = RuleText {
    means: "An edge stands in the floor that is no higher than an actor steps.",
    matters: "Unless the game lifts the actor over it, it stops at what looks like level ground.",
    measured: "Where the floor goes on at another height, against [moves] step. The figure is the height of the edge, px.",
    mend: "Slope or lower the edge, or see that the game lifts the actor.",
    drawing: "   [ ]\n   [ ]->__####   2 px\n   ######|####\n",
};

pub(super) const SEAM: RuleText = RuleText {
    means: "Two solids are less than 1 px apart, stand less than 1 px over one another in the floor, or are flush there.",
    matters: "A body's corner catches in the slit or on the lip. Flush solids have an edge between them that stops a body in \
              games which take solids one by one.",
    measured: "The distance along the edge normal that parts them most, and the height of each lip in the floor; the figure, px. \
               Flush ones are told as a note with figure 0. Tiles are merged, and have no seams between them.",
    mend: "Move the one named as told; or make one outline of both.",
    drawing: "  ______ ______\n  ######|######\n  ######|######   slit, lip or edge\n",
};

pub(super) const SLIVER: RuleText = RuleText {
    means: "A solid, a one-way platform or a zone is thinner than 1 px.",
    matters: "What moves a px a tick passes it unseen, and overlaps with it are too small to tell.",
    measured: "The least extent of its outline's hull over the directions of its edges, px.",
    mend: "Make it 1 px thick at least.",
    drawing: "   ------------   0.40 px\n",
};

pub(super) const CRAMPED_PLATFORM: RuleText = RuleText {
    means: "Over a one-way platform lies a solid, or another platform, so near that a body which rises through has no room to stand.",
    matters: "It is caught between both: it can neither go on nor rest, and falls or shakes.",
    measured: "At every x at which the tallest body of an actor stands on the platform, how far it is short of fitting under what \
               lies above; the figure, px, is the worst.",
    mend: "Put the platform lower, or what lies above higher, by the figure.",
    drawing: "   ####################\n     |_|  <- no room\n   ==|=|=============\n",
};

pub(super) const TIGHT_PASSAGE: RuleText = RuleText {
    means: "A body of an actor that starts on the stage has less than 1 px to spare in a passage, or is short by no more than 4 px.",
    matters: "It looks as if the actor could pass, and it cannot; or it scrapes through and any px more of the body stops it.",
    measured: "For each run of low or narrow places that is open at both ends, and each body in all its frames and both facings: the \
               room between floor and ceiling (or wall and wall) as the body's outline meets them, at the tightest place. The figure is \
               the room to spare, px, below 0 what is short. `finitor stage clearance` tells all passages.",
    mend: "Make the passage as high as told, or plainly too low.",
    drawing: "   ##########\n    _   spare\n   [ ] ->\n   ##########\n",
};

pub(super) const THIN_ZONE: RuleText = RuleText {
    means: "A zone is so thin that a body it looks for can pass it between two ticks.",
    matters: "The hazard, the goal or the event is missed, at full speed alone.",
    measured: "The longest step of each actor ([moves] fastest, or that of `lint --takes`) along each edge normal of zone and body, \
               against both their extents together. The figure is the zone's thickness along the worst, px.",
    mend: "Make the zone as thick as told, or cap the speed.",
    drawing: "   [ ]  tick 1\n   ..zone......\n   [ ]  tick 2\n",
};
