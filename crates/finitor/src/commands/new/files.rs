//! The hand-written files of a new project.

use super::setting::Setting;

/// `finitor.toml`.
pub(super) fn project(setting: &Setting) -> String {
    format!(
        r#"# What the project is, who looks for whom, and what checks may let pass. Docs: docs/files.md of Finitor.

[project]
name = "{name}"
tick_rate = 60                   # ticks a second
y_axis = "down"                  # the way takes count y: "down" from the stage's top, or "up" from its bottom
actors = ["actors/*.toml"]
stages = ["stages/*.toml"]

[layers]
names = ["ground", "ledge", "hero", "foe", "strike"]   # bit 0 first, 32 at most
contact = "either"               # two bodies stop each other when either mask detects the other, or "both"

[layers.mask]                    # what a layer looks for, unless a shape says otherwise
hero = ["ground", "ledge"]
foe = ["ground", "ledge"]
strike = ["foe"]

[check]
slack = 0.5                      # px of overlap that is no fault
hover = 1.0                      # px that a standing actor's art may be off the ground
teleport = {teleport}                   # px; a longer step is a warp, not a motion

[check.rules]                    # off, note, warn or error; `finitor explain` lists the rules
hover = "warn"
"#,
        name = setting.project,
        teleport = 4 * setting.unit,
    )
}

/// `stages/yard.toml`: a floor, a wall at each side, a ledge to jump on, a goal.
pub(super) fn stage(setting: &Setting) -> String {
    let u = setting.unit;
    format!(
        r#"# A yard to try things in. World px: x right, y down.

[stage]
name = "yard"
size = [{width}, {height}]

[[solid]]
name = "floor"
box = [0, {floor}, {width}, {u}]        # left, top, width, height
layer = "ground"

[[solid]]
name = "wall"
box = [{wall}, {wall_top}, {u}, {wall_height}]
layer = "ground"

[[one_way]]
name = "ledge"                   # jump up through it, stand on it
box = [{ledge}, {ledge_top}, {ledge_width}, 4]
passes = "up"
layer = "ledge"

[[zone]]
name = "gate"
box = [{gate}, {wall_top}, {u}, {wall_height}]
mask = ["hero"]
effect = "goal"                  # hazard, goal or event

[[spawn]]
actor = "{actor}"
at = [{start}, {floor}]
facing = "right"
"#,
        width = setting.stage.0,
        height = setting.stage.1,
        floor = setting.floor(),
        wall = setting.wall(),
        wall_top = setting.floor() - 3 * u,
        wall_height = 3 * u,
        ledge = setting.across(4),
        ledge_top = setting.floor() - 3 * u,
        ledge_width = 3 * u,
        gate = setting.across(9),
        actor = setting.actor,
        start = setting.across(2),
    )
}
