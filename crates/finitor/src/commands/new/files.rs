//! The hand-written files of a new project.

/// What the files depend on.
pub(super) struct Setting<'a> {
    pub(super) project: &'a str,
    pub(super) actor: &'a str,
    /// The animation that the take plays, and the number of its frames.
    pub(super) animation: &'a str,
    pub(super) frames: usize,
    /// Whether it stands on the ground; what does not is recorded in the air.
    pub(super) standing: bool,
    /// The larger side of a cell, px: the measure of the stage.
    pub(super) unit: u32,
}

/// `finitor.toml`.
pub(super) fn project(setting: &Setting<'_>) -> String {
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
pub(super) fn stage(setting: &Setting<'_>) -> String {
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
        width = 14 * u,
        height = 7 * u,
        floor = 6 * u,
        wall = 13 * u,
        wall_top = 3 * u,
        wall_height = 3 * u,
        ledge = 4 * u,
        ledge_top = 3 * u,
        ledge_width = 3 * u,
        gate = 9 * u,
        actor = setting.actor,
        start = 2 * u,
    )
}

/// `takes/first.csv`: the actor walks to the gate, turns and comes back.
pub(super) fn take(setting: &Setting<'_>) -> String {
    let u = i64::from(setting.unit);
    let (start, turn) = (2 * u, 10 * u);
    let y = if setting.standing { 6 * u } else { 2 * u };
    let step = (u / 12).max(1);
    let mut rows = String::from("tick,actor,x,y,facing,animation,frame\n");
    let (mut x, mut facing, mut tick) = (start, "right", 0_usize);
    loop {
        let frame = tick / 6 % setting.frames.max(1);
        rows += &format!("{tick},{},{x},{y},{facing},{},{frame}\n", setting.actor, setting.animation);
        tick += 1;
        match facing {
            "right" if x + step > turn => facing = "left",
            "right" => x += step,
            _ if x - step < start => return rows,
            _ => x -= step,
        }
    }
}
