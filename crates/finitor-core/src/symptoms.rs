//! What people see in their game, and the rules that find it.

use crate::book;
use crate::rule::Rule;

/// Something seen in a running game.
#[derive(Clone, Copy, Debug)]
pub struct Symptom {
    /// What is seen, as a sentence without its subject: `sticks at corners and tile seams`.
    pub seen: &'static str,
    /// Other words that people use for it.
    pub words: &'static str,
    /// The rules that find it, the likeliest first, by code.
    pub rules: &'static [&'static str],
    /// The usual reason.
    pub reason: &'static str,
    /// What to set or change.
    pub setting: &'static str,
}

/// All of them.
pub static SYMPTOMS: &[Symptom] = &[
    Symptom {
        seen: "sticks at corners, low edges and tile seams while walking",
        words: "stuck stick sticks snag snags snagged catches caught stops stop blocked trips bump tile tiles seam seams corner corners edge ghost collision",
        rules: &["snagged", "seam", "low_step", "sliver"],
        reason: "The floor is many solids, and the body has sunk a hair, so that it meets the side of the next one.",
        setting: "Merge level solids into one outline, step up edges of a few px, and drop thin parts with `min_thickness`.",
    },
    Symptom {
        seen: "catches in the air on the side of a block and hangs there",
        words: "stuck stick hangs hang catches wall walls jump air midair ledge arm sword",
        rules: &["midair_stop", "hanging"],
        reason: "Both axes are undone where only one was stopped, or a thin part of the body lies on a ledge.",
        setting: "Take back the motion on each axis by itself; `min_thickness` drops thin parts.",
    },
    Symptom {
        seen: "hovers above the ground",
        words: "hover hovers float floats floating gap above ground feet air stands on nothing",
        rules: &["hover", "off_ground", "wide_strip"],
        reason: "The art ends above the body's bottom, the pivot is not at the feet, or the ground sensor is wider than the body.",
        setting: "Move the body's bottom or the `pivot` by the figure; give the strip `ends = \"shape\"`.",
    },
    Symptom {
        seen: "sinks into the ground",
        words: "sink sinks sunk feet below floor ground into buried clips clip",
        rules: &["sunk_feet", "embedded", "off_ground"],
        reason: "The art reaches below the body, or the body is not taken out of the floor it has fallen into.",
        setting: "Lower the body's bottom by the figure, or end the step at the place given.",
    },
    Symptom {
        seen: "falls through a floor or a platform",
        words: "fall falls through floor ground platform drop drops passes fast bullet tunnel tunnels tunnelling",
        rules: &["tunnelled", "embedded", "drop_overrun", "thin_zone", "leaky_bottom"],
        reason: "A step is longer than the floor is thick, or a drop lasts until the next platform below.",
        setting: "Sweep fast steps, or cap the speed; end a drop when the body is inside the first platform.",
    },
    Symptom {
        seen: "passes through a wall",
        words: "wall walls through pass passes dash fast clip clips inside embedded",
        rules: &["tunnelled", "embedded", "unseen_layer", "unstopped_body"],
        reason: "A dash is longer than the wall is thick, or the body's mask does not detect the wall's layer.",
        setting: "Sweep the dash; add the layer to the mask ([layers.mask]).",
    },
    Symptom {
        seen: "is grounded and airborne by turns, or cannot jump on slopes",
        words: "jitter jitters flicker flickers grounded airborne cannot jump slope slopes downhill stutter animation falling idle",
        rules: &["flicker", "steep_slope", "wide_strip", "deep_strip"],
        reason: "Walking down a slope, the body leaves the ground for a tick or two.",
        setting: "Hold it to the ground over a few px, or call it grounded for the ticks given (`[check] flicker`).",
    },
    Symptom {
        seen: "snaps up onto a ledge or over an edge",
        words: "snap snaps pop pops teleport up step ledge lifted jerk",
        rules: &["popped", "caught_rising"],
        reason: "The step up is higher than meant, or a one-way platform takes a body that is not yet above it.",
        setting: "Lower the step (`[moves] step` says how high it may be); ignore a platform until the body has cleared its top.",
    },
    Symptom {
        seen: "bumps its head on a platform that it should pass, or is put on top of it",
        words: "head platform oneway one-way jump underside up through stops rising snaps",
        rules: &["caught_rising", "cramped_platform"],
        reason: "The one-way platform stops what moves up, or what was not wholly above it before.",
        setting: "Let it stop only what was above it a tick ago and moves down.",
    },
    Symptom {
        seen: "bounces between two portals",
        words: "bounce bounces portal portals warp warps teleport back forth loop door doors",
        rules: &["warp_bounce", "landing_bounces"],
        reason: "The landing lies inside a zone that warps back.",
        setting: "Move the `landing` by the figure, or set a `cooldown`.",
    },
    Symptom {
        seen: "arrives stuck in a wall after a warp or at its spawn",
        words: "warp portal spawn respawn start stuck wall inside teleport checkpoint",
        rules: &["warp_blocked", "landing_inside", "lost_spawn"],
        reason: "The landing leaves no room for some frame.",
        setting: "Set `landing` or `at` to the place given.",
    },
    Symptom {
        seen: "is stuck after turning around",
        words: "turn turns turning flip flips mirror around facing stuck wall jitter",
        rules: &["embedded", "lopsided", "flip_drift"],
        reason: "The body reaches further ahead than behind, so that the turn moves it into the wall.",
        setting: "Set `symmetric = true` on the body.",
    },
    Symptom {
        seen: "is stuck after standing up, or stands up into the ceiling",
        words: "stand stands up crouch crouching duck slide low ceiling stuck head beam",
        rules: &["no_headroom", "tight_passage"],
        reason: "The tall frame comes back where there is no room for it.",
        setting: "Stay low until there is room; `finitor stage clearance` lists where there is none.",
    },
    Symptom {
        seen: "is hit by nothing, or by air",
        words: "hit hurt struck air nothing unfair phantom damage reach long hitbox big",
        rules: &["phantom_hit", "facing_split"],
        reason: "The hit or hurt shape reaches beyond the art, or faces the other way.",
        setting: "Pull in the edge named by the figure.",
    },
    Symptom {
        seen: "is not hit, though the blow goes through it",
        words: "miss misses missed hit hits not nothing damage blow sword through hitbox small none",
        rules: &["missed_hit", "idle_hit", "short_reach", "sweep_gap", "uncovered_art", "unseen_layer", "no_shape"],
        reason: "The hit is shorter than the art, jumps over the target, or its mask does not detect the target's layer.",
        setting: "Extend the hit by the figure; add the layer to its mask.",
    },
    Symptom {
        seen: "is hit twice by one blow",
        words: "twice double hit hits damage repeat again swing",
        rules: &["repeat_hit"],
        reason: "The hit leaves the target for a tick and meets it again within the swing.",
        setting: "Keep a list of whom a swing has struck.",
    },
    Symptom {
        seen: "ignores another actor and walks through it",
        words: "ignore ignores through pass passes overlap another enemy crate push character each other",
        rules: &["ghost_pair", "one_sided", "unseen_layer"],
        reason: "Neither mask detects the other's layer, or `contact = \"both\"` needs both.",
        setting: "Add the bit named to the mask.",
    },
    Symptom {
        seen: "trips over its own sensor",
        words: "own self sensor detects itself ground always grounded trips",
        rules: &["self_sense", "flush_strip"],
        reason: "The sensor's mask holds the layer of its own body, and the game does not leave its own shapes out.",
        setting: "Take the layer out of the sensor's mask.",
    },
    Symptom {
        seen: "passes a trigger that does not fire",
        words: "trigger zone event goal checkpoint skipped missed not fire fires pass fast",
        rules: &["zone_skipped", "thin_zone", "empty_zone"],
        reason: "The step is longer than the zone is thick, or the zone's mask detects nobody.",
        setting: "Make the zone at least as thick as given, or sweep it.",
    },
    Symptom {
        seen: "leaves the level",
        words: "leave leaves level stage world out falls off border void",
        rules: &["off_stage", "leaky_bottom"],
        reason: "A border has neither a wall nor a hazard.",
        setting: "Add a hazard or a solid along the stretch given.",
    },
    Symptom {
        seen: "faces the wrong way, or strikes behind itself",
        words: "face faces facing wrong way flip flipped mirror mirrored behind back picture shapes",
        rules: &["facing_split", "missing_turned", "flip_drift"],
        reason: "Picture and shapes turn on different ticks, or the picture is drawn for the other side.",
        setting: "Take both from one value; `faces` says how the art is drawn.",
    },
    Symptom {
        seen: "has an arm or a weapon in the wall",
        words: "arm weapon sword art picture sprite wall inside overlaps clip clips",
        rules: &["art_in_wall"],
        reason: "The body is narrower than the art.",
        setting: "Extend the body by the figure, or keep further away.",
    },
    Symptom {
        seen: "changes size or vanishes from frame to frame",
        words: "size jump jumps grows shrinks vanish vanishes blink frame frames animation pops shape",
        rules: &["shape_jump", "lone_edit", "no_shape", "empty_frame", "cut_figures"],
        reason: "A shape is fitted to each frame by itself, was moved by hand on one, or a frame has none.",
        setting: "`share = \"animation\"` or `\"actor\"` holds a shape over many frames; `fit --everywhere` moves all of them.",
    },
    Symptom {
        seen: "is reported everywhere, or nothing is reported at all",
        words: "everything nothing clean wrong recording take record wired upside down axis scale units ticks milliseconds frame slides",
        rules: &["nothing_met", "skipped_ticks", "stuck_frame", "no_shape", "outside_cell"],
        reason: "The take counts y the other way, or logs another point than the pivot, or other units, or one frame all through, or leaves ticks out.",
        setting: "Record what the message names, or change `y_axis`.",
    },
];

/// A symptom that some words speak of, and how many of them.
#[derive(Clone, Copy, Debug)]
pub struct Match {
    /// The symptom.
    pub symptom: &'static Symptom,
    /// How many of the words fit.
    pub fits: usize,
}

/// The symptoms that words speak of, those with the most of them first.
///
/// # Complexity
/// O(w s), w words and s words of all symptoms.
pub fn matching(words: &str) -> Vec<Match> {
    let asked = parts(words).filter(|word| word.len() > 1 && !FILLERS.contains(&word.to_lowercase().as_str()));
    let asked: Vec<String> = asked.map(stem).collect();
    let fits = |symptom: &'static Symptom| {
        let own: Vec<String> = parts(symptom.seen).chain(parts(symptom.words)).map(stem).collect();
        let fits = asked.iter().filter(|word| own.contains(word)).count();
        Match { symptom, fits }
    };
    let mut found: Vec<Match> = SYMPTOMS.iter().map(fits).filter(|found| found.fits > 0).collect();
    // Those alike stay in the list's order.
    found.sort_by_key(|found| std::cmp::Reverse(found.fits));
    found
}

impl Symptom {
    /// The rules that find it.
    pub fn rules(&self) -> impl Iterator<Item = Rule> {
        self.rules.iter().filter_map(|code| book::find(code))
    }
}

/// Words that say nothing by themselves.
const FILLERS: &[&str] =
    &["the", "a", "an", "my", "is", "it", "its", "in", "on", "at", "of", "to", "and", "or", "hero", "player"];

fn parts(text: &str) -> impl Iterator<Item = &str> {
    text.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty())
}

/// A word without its usual endings.
fn stem(word: &str) -> String {
    let word = word.to_lowercase();
    let endings = ["ing", "es", "ed", "s"];
    let cut = endings.iter().find_map(|ending| word.strip_suffix(ending).filter(|rest| rest.len() > 2));
    let cut = cut.unwrap_or(&word);
    // `stuck` and `sticks`, `hitting` and `hit`.
    let mut letters: Vec<char> = cut.chars().collect();
    match letters.as_slice() {
        [.., _, _, before, last] if before == last && *last != 'l' => drop(letters.pop()),
        _ => return cut.trim_end_matches('e').to_string(),
    }
    letters.into_iter().collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::book::take_rules;
    use std::collections::BTreeSet;

    #[test]
    fn every_rule_that_is_named_exists_and_every_rule_of_takes_is_named() {
        let named: BTreeSet<&str> = SYMPTOMS.iter().flat_map(|symptom| symptom.rules).copied().collect();
        assert!(named.iter().all(|code| book::find(code).is_some()), "{named:?}");
        let missing: Vec<&str> = take_rules().map(Rule::code).filter(|code| !named.contains(code)).collect();
        assert_eq!(missing, [""; 0], "rules of takes that no symptom names");
    }

    #[test]
    fn what_people_say_finds_the_rule_first() {
        let first = |words: &str| matching(words).first().map_or("", |found| found.symptom.rules[0]);
        for (words, rule) in [
            ("stuck", "snagged"),
            ("sticks at corners", "snagged"),
            ("stuck after turning", "embedded"),
            ("stuck after standing up", "no_headroom"),
            ("hovers", "hover"),
            ("floating above the ground", "hover"),
            ("sinks", "sunk_feet"),
            ("falls through the platform", "tunnelled"),
            ("jitters", "flicker"),
            ("cannot jump on slopes", "flicker"),
            ("snaps up", "popped"),
            ("bounces between portals", "warp_bounce"),
            ("hit by air", "phantom_hit"),
            ("the sword misses", "missed_hit"),
            ("ignores the crate", "ghost_pair"),
            ("trips over its own sensor", "self_sense"),
            ("hit twice", "repeat_hit"),
            ("trigger does not fire", "zone_skipped"),
            ("my player leaves the level", "off_stage"),
        ] {
            assert_eq!(
                first(words),
                rule,
                "{words}: {:?}",
                matching(words).iter().map(|m| (m.symptom.seen, m.fits)).collect::<Vec<_>>()
            );
        }
        assert!(matching("ぁぁぁぁ").is_empty(), "letters of several bytes are cut nowhere");
        assert!(matching("qwertz").is_empty() && matching("the").is_empty());
    }
}
