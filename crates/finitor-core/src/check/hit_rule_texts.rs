//! The rule book's words, of hits and of art.

use super::rules::RuleText;

pub(super) const REPEAT_HIT: RuleText = RuleText {
    means: "One swing struck one target, lost it, and struck it again.",
    matters: "Games that count each contact deal the damage twice, now and then.",
    measured: "A swing lasts while the animation goes on, frame by frame, without beginning anew. A contact ends on the first tick on \
               which the hit overlaps no hurt shape of the target that it sees. The figure is for how many ticks they were apart.",
    mend: "Let a swing strike each target once, or not again within the ticks given.",
    drawing: "   tick 2  --*[ ]\n   tick 3  --  [ ]\n   tick 4  --*[ ]   again\n",
};

pub(super) const ART_IN_WALL: RuleText = RuleText {
    means: "Opaque pixels of an actor are inside a solid that its body keeps clear of.",
    matters: "A pole, a nose or a tail is drawn into walls: the body is narrower than the picture.",
    measured: "The area of the frame's opaque pixels, as they are seen in that facing, inside of each solid that the body sees and is not \
               deeper in than check.slack, exactly. The figure is that area, px2. It counts beyond check.art_in_wall px2 (64).",
    mend: "Keep the actor further off by the px given, or let the body reach as much further on that side.",
    drawing: "   [ o ]  ####\n   [/|\\]--##   figure\n   [/ \\]  ####\n",
};

pub(super) const PHANTOM_HIT: RuleText = RuleText {
    means: "A hit struck, and what is seen of the two does not meet.",
    matters: "Players are struck by air, and call the game unfair.",
    measured: "On the first tick of each contact: the distance between the opaque pixels of the two frames, as they are seen in their \
               facings, exactly. The figure is that distance, px. It counts beyond check.phantom_hit px (4). A frame without opaque \
               pixels is silent.",
    mend: "Draw the sides of the hit and of the hurt shape back to the art by the px given.",
    drawing: "   ====[.....(..].....)o\n   art  hit   hurt    art\n       |<-- figure -->|\n",
};

pub(super) const MISSED_HIT: RuleText = RuleText {
    means: "What is seen to strike covers a target, and in all that swing no shape struck it.",
    matters: "Players see their blow go through.",
    measured: "While a hit is out that looks for a hurt shape of the target: the area that the opaque pixels of both share, exactly. Of \
               the striker those count that lie as near to a hit as to its body and hurt shapes, of the target all but those. Told when \
               the swing is over and no hit of it struck. The figure is the largest such area, px2. It counts beyond check.missed_hit \
               px2 (32): hurt shapes are often drawn small on purpose.",
    mend: "Let the hit, or the hurt shape, reach further by the px given.",
    drawing: "   ---[--]--- o\n   ---[--]--/|\\\n            / \\   art on art, no shape\n",
};
