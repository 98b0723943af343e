//! The rule book's words on layers and masks.

use super::rules::RuleText;

pub(super) const GHOST_PAIR: RuleText = RuleText {
    means: "Two bodies overlapped and nothing stops them: neither mask asks for the other's layer, or, with contact = \
            \"both\", only one does.",
    matters: "They pass through each other, which is meant for some pairs and one forgotten bit for others.",
    measured: "Each tick, the depth of the overlap where it is more than check.slack, by the masks that the files give. \
               Where only a state lets them through it is meant, and not told.",
    mend: "Add the bit named to the mask named, or say ghost_pair = \"off\" under [check.rules]. `finitor layers explain \
           ONE OTHER` tells the bits, `finitor check --pairs` counts all pairs.",
    drawing: "   ____\n  |  __|_\n  |_|__| |   no bit, no stop\n    |____|\n",
};

pub(super) const SELF_SENSE: RuleText = RuleText {
    means: "A sensor looks for a layer that a shape of its own actor is on.",
    matters: "Many games do not leave an actor's own shapes out: the sensor under the feet then finds the feet, and the \
              actor never falls.",
    measured: "Each sensor's mask against the layers of all shapes of its actor. The figure is the number of shapes found. \
               Finitor itself never lets an instance see itself.",
    mend: "Take the bit named out of the sensor's mask, or put the shapes on another layer.",
    drawing: "    [ body ]  on hero\n    [sensor]  looks for hero, too\n",
};

pub(super) const BLIND_SENSOR: RuleText = RuleText {
    means: "A sensor's mask is empty, or nothing is on any layer in it.",
    matters: "It never finds anything: an actor never stands, a switch never opens.",
    measured: "Each sensor's mask against the layers of everything but its own actor.",
    mend: "Add the bit named to its mask.",
    drawing: "    [sensor]  looks for -\n    #######   ground\n",
};

pub(super) const UNSEEN_LAYER: RuleText = RuleText {
    means: "Something that stops or can be struck is on a layer that no mask has.",
    matters: "It is there to see and nothing ever meets it.",
    measured: "Solids, platforms and hurt shapes by layer, against all masks. The figure is how many of them are on it.",
    mend: "Add the layer to the mask of what should find it, or put the things on another.",
    drawing: "    [ body ]  looks for ground\n    =======   on ledge\n",
};

pub(super) const ONE_SIDED: RuleText = RuleText {
    means: "With contact = \"both\", one of two bodies asks to stop at the other, which does not ask back.",
    matters: "They pass through each other, although one mask says they should not.",
    measured: "Each two bodies of different actors; told once for each two sets of layers. With contact = \"either\" one mask \
               suffices, so nothing is told.",
    mend: "Add the bit named to the other's mask, or set contact = \"either\".",
    drawing: "    [ a ] -> b      [ b ]  looks elsewhere\n",
};

pub(super) const UNUSED_LAYER: RuleText = RuleText {
    means: "Nothing is on a layer and nothing looks for it; or no list names a family.",
    matters: "It takes one of 32 bits and misleads whoever reads the matrix.",
    measured: "All shapes, things on stages and states.",
    mend: "`finitor layers remove NAME`, or use it.",
    drawing: "    bit 6  zone   .......\n",
};

pub(super) const EMPTY_ZONE: RuleText = RuleText {
    means: "No body is on any layer that a zone looks for.",
    matters: "The goal is never reached, the hazard never takes anybody.",
    measured: "Each zone's mask against the layers of all bodies.",
    mend: "Add the bit named to the zone's mask.",
    drawing: "    :zone:   looks for foe\n     [ hero ]\n",
};

pub(super) const IDLE_HIT: RuleText = RuleText {
    means: "No hurt shape of another actor is on any layer that a hit looks for.",
    matters: "Blows pass through everybody.",
    measured: "Each hit's mask against the layers of the hurt shapes of other actors.",
    mend: "Add the bit named to the hit's mask.",
    drawing: "    [hit]   looks for -\n     [ hurt ]  on foe\n",
};

pub(super) const UNSTOPPED_BODY: RuleText = RuleText {
    means: "No solid, platform or other body stops a body.",
    matters: "It falls through the world.",
    measured: "Each body with everything that could stop it, by masks and contact.",
    mend: "Add the bit named to the body's mask.",
    drawing: "    [ body ]\n   ####|####\n       v\n",
};
