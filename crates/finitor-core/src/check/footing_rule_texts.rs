//! The rule book's words, of standing, dropping and being put somewhere.

use super::rules::RuleText;

pub(super) const NO_HEADROOM: RuleText = RuleText {
    means: "A body became taller under a ceiling that leaves no room for it.",
    matters: "The actor stands up into the ceiling, is thrown out to the side or sticks.",
    measured: "As embedded, where the frame changed to one whose body reaches higher and the way out is down. The figure is the \
               depth, px.",
    mend: "Keep the low frame until there is room: `finitor stage clearance` tells where there is none.",
    drawing: "   ##########\n     |##|     figure\n     |  |  <- was low\n",
};

pub(super) const WARP_BLOCKED: RuleText = RuleText {
    means: "A body was put into something that stops it: by a warp, or by the game.",
    matters: "It arrives stuck, or is thrown out when the overlap is resolved.",
    measured: "As embedded, where the state `warped` holds on that tick or the step was longer than check.teleport. The figure is the \
               depth, px.",
    mend: "Move the landing by the figure; `finitor lint` tells each landing that is blocked.",
    drawing: "   :zone:      ___|###\n   : * -:---> |  +|#|#\n   :    :     |___|_|#\n",
};

pub(super) const WARP_BOUNCE: RuleText = RuleText {
    means: "A warp put a body where it overlaps a warp that takes it again.",
    matters: "It goes back and forth, or far on, without the player's doing.",
    measured: "On the tick on which it was put there, or where the warp that it came by has a cooldown, when that ends and it has not \
               left. The figure is how far it must move left or right to be out, px.",
    mend: "Move the landing by the figure, or give the warp a cooldown.",
    drawing: "   :zone: --> :zone:\n   :    : <-- :  + :\n",
};

pub(super) const SUNK_FEET: RuleText = RuleText {
    means: "An actor stands, and the lowest opaque row of its art is under the ground.",
    matters: "The feet are hidden by the floor, or drawn over it.",
    measured: "As hover, with the ground above the lowest row; only over floor that is level under a whole run of that row's pixels, so \
               that slopes are silent. The figure is how deep, px. It counts beyond check.hover px.",
    mend: "Move the pivot down by the figure, or the body's bottom down to the lowest opaque row.",
    drawing: "    o\n   /|\\\n ##/#\\##  figure\n",
};

pub(super) const FLICKER: RuleText = RuleText {
    means: "A body lost the ground without a jump and had it again within check.flicker ticks.",
    matters: "Jumps are refused now and then, and poses twitch between standing and falling.",
    measured: "Grounded by the strip below the body, or by touching within check.slack; a one-way platform that is being passed \
               carries nobody. At once where it comes back at the same height; \
               where it goes down, as on a slope, the second time. Jumps, drops and rises do not count, nor the first time it comes \
               down an edge. The figure is how many ticks were lost.",
    mend: "Let it count as grounded for as many ticks after it loses the ground, or hold it down on slopes; where the body still \
           rested, widen the strip.",
    drawing: "  stands . . stands\n  #################\n",
};

pub(super) const POPPED: RuleText = RuleText {
    means: "A body that stands on two ticks on end is higher on the second by more than its step, its speed or a slope explains.",
    matters: "It jumps up ledges at a touch.",
    measured: "The rise in a tick, px, against [moves] step (4 px unless given), the rise of the tick before with that step, and twice the \
               way across.",
    mend: "Stop it at the edge; or say a greater step if it may climb so high.",
    drawing: "          [ ]\n          ####\n   [ ] -> ####   figure\n   ###########\n",
};

pub(super) const DROP_OVERRUN: RuleText = RuleText {
    means: "One drop led a body through more one-way platforms than one.",
    matters: "The player wanted one floor down and falls two.",
    measured: "While the state `drop` holds without a break: platforms that the body lay above and now passes. The figure is how far the \
               second lies below the first, px.",
    mend: "End the drop by the tick given, when the body is in the first platform: it passes on until it has left it.",
    drawing: "   ==[ ]== \n      |\n   ===|===   figure\n      v\n",
};

pub(super) const SNAGGED: RuleText = RuleText {
    means: "A walking body was stopped by an edge that is no higher than it steps, by the joint of two solids of one height, or by a \
            thin part of its own.",
    matters: "It sticks at what looks like level ground, most often at the joints of tiles.",
    measured: "It stood, moved at 1 px a tick or more and lost three quarters of that. Edge: all that lies half a px ahead are edges no \
               higher than [moves] step (4 px unless given), slopes left out; the figure is the height, px. Joint: nothing lies ahead, \
               its step was cut short within 0.02 px of where the next solid begins, and the animation went on; the figure is how far \
               it did not go, px. Thin part: only pieces thinner than 4 px meet what is ahead and the rest has room for the step; the \
               figure is how thin, px.",
    mend: "Lift the body over the edge or lower it, merge solids that meet in a floor (`finitor lint` tells both), or drop thin parts \
           with `slim`.",
    drawing: "   [ ]\n   [ ]->__###   figure\n   ##########\n",
};
