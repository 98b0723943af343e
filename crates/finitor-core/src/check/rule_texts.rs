//! The rule book's words.

use super::rules::RuleText;

pub(super) const EMBEDDED: RuleText = RuleText {
    means: "A body lies deeper than check.slack in something that stops it: a solid, a one-way platform that should \
            have stopped it, or another body.",
    matters: "The actor sinks into walls, sticks, or is thrown out when the game resolves the overlap in one jump.",
    measured: "Each tick, the shortest translation that ends the overlap, the largest over the pairs of convex \
               pieces. The cause is the first step since the tick before after which the overlap is there: the \
               move, then the turn, then the new frame, then a state's new mask; pushed, where another body that \
               touches it from behind went the same way.",
    mend: "moved: end the step earlier, at the place given; end a drop by the tick given. pushed: stop the other body \
           as well. turned: make the body symmetric about the pivot, or push \
           the actor away as it turns. reshaped: move the edge named on the frame named, or keep the old frame until \
           there is room.",
    drawing: "    ____|####\n   |    |####\n   |  ->|#|##   depth\n   |____|_|##   |<->|\n",
};

pub(super) const TUNNELLED: RuleText = RuleText {
    means: "Between two ticks a body passed through something that stops it, another body too, and neither tick shows \
            an overlap.",
    matters: "The actor falls through thin floors or dashes through walls, but only at some speeds and places.",
    measured: "The old shape is swept straight from the old place to the new one, exactly; two bodies are swept by \
               their motion against each other. It counts when the body \
               gets deeper than check.slack on the way and also when the step is taken axis by axis, in either \
               order: games that move so round corners that the straight line cuts. The figure is the greatest \
               depth on the way.",
    mend: "Sweep the motion and stop at the first touch given, cap the speed at the px a tick given, or thicken what \
           was passed.",
    drawing: "   [ ]  tick 76\n    |\n  ==|=========   no tick shows it\n    v\n   [ ]  tick 77\n",
};

pub(super) const CAUGHT_RISING: RuleText = RuleText {
    means: "A one-way platform stopped or lifted a body that moved along its pass direction, or that came in from \
            the side.",
    matters: "Jumps through the platform end at its underside, or snap the actor to the top.",
    measured: "Stopped: the body ends a step with its leading side at the platform's near side, having lost more \
               than 1 px a tick of its speed; the figure is the speed lost, px. Lifted: the body ends a step on top, \
               was not wholly past the platform before it, and moved more than 1 px further than its speed explains; \
               the figure is how far it was still below the top before.",
    mend: "Let the platform stop a body only if it lay wholly on the far side on the tick before and does not move \
           along the pass direction.",
    drawing: "     ^ pass\n  ===|=======\n    [ ]   stopped here on the way up\n",
};

pub(super) const HOVER: RuleText = RuleText {
    means: "An actor stands, yet the lowest opaque row of its art is off the surface.",
    matters: "The feet float above the ground, most visibly in idle poses.",
    measured: "An actor stands while its sensor below its body (or, lacking one, the body itself, within check.slack) \
               meets something that its body sees, for seven ticks on end at the same height without falling faster: walks bob, and hops have a top. The figure is the least \
               upright distance from the lowest opaque row to the surface under it. It counts beyond check.hover px.",
    mend: "Move the pivot down by the figure, or the body's bottom up to the lowest opaque row; or end the fall at \
           the surface.",
    drawing: "    o\n   /|\\\n   / \\\n  .......  <- figure\n  #######\n",
};

pub(super) const OFF_STAGE: RuleText = RuleText {
    means: "A body that was on the stage lies wholly past its left, right or bottom border, and no hazard zone that \
            looks for it took it on the way.",
    matters: "The actor is lost: it falls or flies for ever and the player waits.",
    measured: "Against the box (0, 0) to stage.size. The figure is the distance from the border to the body's \
               nearest side. Leaving by the top is a jump and no fault.",
    mend: "Put a hazard zone, or something solid, where the body leaves: the range is given.",
    drawing: "  stage   |\n          |   [ ] ->\n          |<->|  figure\n",
};

pub(super) const ZONE_SKIPPED: RuleText = RuleText {
    means: "A body crossed a trigger zone between two ticks, and no tick shows it inside.",
    matters: "Deaths, goals and events fail to fire, but only at full speed.",
    measured: "The old shape is swept straight from the old place to the new one, exactly. It counts when it gets \
               deeper than check.slack into the zone on the way, also when the step is taken axis by axis, in either \
               order, and overlaps it at neither end. The figure is the greatest depth on the way.",
    mend: "Make the zone at least as thick as given along the motion, or cap the speed at the px a tick given.",
    drawing: "        :zone:\n   [ ] -:----:-> [ ]\n        :    :\n",
};

pub(super) const OFF_GROUND: RuleText = RuleText {
    means: "The art of a frame that should stand does not end on the pivot's line.",
    matters: "The pivot is where the game puts the actor on the ground: the figure floats above it or sinks in, on that \
              frame and at every place.",
    measured: "The lower edge of the lowest opaque row (alpha 128 and more) against the pivot's y, in px; above 0 it lies \
               below the line. Frames that should stand are those of animations with `standing = true`, or named by \
               --standing. It counts from half a pixel on.",
    mend: "Set the pivot to the one given. Where frames differ, give the pivots by frame as listed, or redraw the frames \
           named.",
    drawing: "     o\n    /|\\\n    / \\    lowest opaque row\n  --------  the pivot's line\n",
};

pub(super) const STALE_FIT: RuleText = RuleText {
    means: "The art or a recipe changed since the shapes were made from it, or frames came or went.",
    matters: "Checks and the game use shapes that no longer go with what is seen.",
    measured: "Each frame's pixels and each recipe are hashed and compared with the fits. The figure is the number of \
               opaque pixels that came, went or have another colour or body part.",
    mend: "Run `finitor fit`; hand edits stay. Where an animation has another name now, `finitor fit --rename OLD=NEW` \
           takes its shapes along.",
    drawing: "   made from      now\n     ##           ###\n     ##           ##   1 px came\n",
};

pub(super) const MISSING_ANCHOR: RuleText = RuleText {
    means: "An anchor that is looked for in the art is not there on a frame that ought to have it.",
    matters: "Whatever the game puts at the anchor jumps to nowhere on that frame.",
    measured: "On every frame of the anchor's animations, or of all: whether any opaque pixel has the colour in the part \
               map, or any pixel is opaque at all.",
    mend: "Paint the colour on the frame's part map; or name the `animations` that have the anchor; or give `at` as the \
           place where nothing is found.",
    drawing: "   walk 0   walk 1   walk 2\n     *                 *\n    /|\\      /|\\      /|\\\n",
};

pub(super) const SHAPE_JUMP: RuleText = RuleText {
    means: "A shape moves much farther from one frame of an animation to the next than the art it is fitted to.",
    matters: "Hits land or miss for a frame where nothing is seen to move, and a body that leaps pushes its actor about.",
    measured: "From frame to frame of an animation, from the pivot: the Hausdorff distance of the shape's two outlines less \
               that of the two sets of pixels it is fitted to. It counts beyond 3 px.",
    mend: "Hold the shape over the animation; or drop what flickers with `slim` or `islands`; or mend the frame named by \
           hand.",
    drawing: "   walk 2     walk 3\n    __         ____\n   |o |       |o   |\n   |/|        |/|  |  <- figure\n",
};

pub(super) const SIBLINGS_OVERLAP: RuleText = RuleText {
    means: "Two shapes of one rule that makes a shape a part overlap on a frame.",
    matters: "A strike there counts as both parts, and the game takes whichever it finds first.",
    measured: "The area both share, px2, frame by frame; it counts from half a px2 on. Fits are cut where parts meet, so it \
               comes from hand edits.",
    mend: "Move the edited points apart, or `finitor fit --unlock --only PART`; or say `siblings_overlap = true`.",
    drawing: "    ____\n   | head\n   |__##__   both\n    |##  torso\n",
};

pub(super) const UNCOVERED_PART: RuleText = RuleText {
    means: "Opaque pixels of a frame are of no part: their colour in the part map is not in [parts], or they have none.",
    matters: "Strikes there hit nothing, though the art is plainly there.",
    measured: "Opaque pixels (alpha 128 and more) of each frame, in px and percent of them. The figure is that of the worst \
               frame.",
    mend: "Add the colour named to [parts], or paint those pixels of the part map with a colour that is there.",
    drawing: "    o    head\n   /|\\_ ?  <- in no part\n   / \\   legs\n",
};

pub(super) const FACING_SPLIT: RuleText = RuleText {
    means: "The picture looks to one side and the shapes to the other.",
    matters: "What is seen and what collides are mirror images: the pole strikes behind the actor.",
    measured: "The take's column flipped_art says on which ticks the game drew the picture mirrored; on those, and only \
               those, the facing must not be the one the frame is drawn for. The figure is how far the sides of the frame's \
               shapes are from where they would be on the side that the picture shows.",
    mend: "Turn picture and shapes in the same tick: take both from one value.",
    drawing: "    picture ->    <- shapes\n       |/           \\|\n       |             |\n",
};

pub(super) const LOPSIDED: RuleText = RuleText {
    means: "A body reaches farther from the pivot on one side than on the other, so that turning moves its sides.",
    matters: "An actor that turns at a wall is pushed into it, and one that turns on a ledge may lose it.",
    measured: "The difference of what the body reaches ahead of the pivot and behind it, the largest over the frames of an \
               animation, px. It counts beyond 1 px.",
    mend: "Say `symmetric = true` for the shape: it is then fitted equal on both sides. Or widen the shorter side, or move \
           the pivot, by the figures given.",
    drawing: "    pivot\n   __|____\n  |  |    |\n  |__|____|\n   a   b    moved by b - a\n",
};

pub(super) const FLIP_DRIFT: RuleText = RuleText {
    means: "The game flips the art about the middle of its cell, and the shapes turn about the pivot, which is not there.",
    matters: "Facing the other way, art and shapes are apart by the same number of px on every frame.",
    measured: "With flip_about = \"cell\": the cell's width less twice the pivot's x, px; above 0 the art lands to the right \
               of the shapes when it is flipped. It counts from half a pixel on.",
    mend: "Put the pivot's x at the middle of the cell; or draw flipped art at the offset given; or flip about the pivot.",
    drawing: "   |  o |        | o  |\n   | /|\\|   ->   |/|\\ |\n   |  |p|        |  |p|   art moved, pivot not\n",
};

pub(super) const MISSING_TURNED: RuleText = RuleText {
    means: "An animation drawn for one side stands for another, and has fewer frames than that.",
    matters: "On the frames that are missing the mirror image is shown instead, and details that were redrawn jump back.",
    measured: "Frames of the animation with `stands_for`, against those of the one that it stands for.",
    mend: "Draw the frames named, or leave `stands_for` out.",
    drawing: "   walk       0 1 2 3 4 5\n   walk_left  0 1 2 3\n                      ^ mirrored instead\n",
};
