//! What can be wrong with the game, its stages and its actors.

/// What the game does wrong.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Bug {
    /// Turns without asking for room.
    TurnsBlindly,
    /// Stands up without asking for room.
    StandsUpBlindly,
    /// Looks at the end of a dash only.
    LeapsWhenDashing,
    /// Ledges stop what rises.
    LedgesAreSolid,
    /// Ledges lift what rises through them onto their top.
    LedgesLift,
    /// Ends falls over the ground.
    LandsHigh,
    /// Ends falls in the ground.
    LandsDeep,
    /// Steps up whatever there is.
    StepsUpAnything,
    /// Steps up nothing.
    NeverStepsUp,
    /// Takes back both axes where one is blocked in the air.
    UndoesBoth,
    /// Ledges hold nothing.
    LedgesFail,
    /// Puts the body anywhere.
    WarpsIntoWalls,
    /// The stage has no walls at its ends.
    LeavesTheStage,
    /// Stops for some ticks at joints of level tiles.
    SnagsOnJoints,
    /// Walks down slopes in little falls.
    LosesGround,
    /// Its body has a pole, by which it hangs.
    HangsByPole,
    /// Zones are thinner than a dash is fast.
    SkipsZones,
    /// Goes on dropping for a second.
    DropsTooLong,
    /// Draws the picture of the right side for the left one.
    ForgetsTheArt,
    /// The art ends 2 px over the body's bottom.
    ArtEndsHigh,
    /// The art ends 2 px under it.
    ArtEndsLow,
}

pub const BUGS: [Bug; 21] = [
    Bug::TurnsBlindly,
    Bug::StandsUpBlindly,
    Bug::LeapsWhenDashing,
    Bug::LedgesAreSolid,
    Bug::LedgesLift,
    Bug::LandsHigh,
    Bug::LandsDeep,
    Bug::StepsUpAnything,
    Bug::NeverStepsUp,
    Bug::UndoesBoth,
    Bug::LedgesFail,
    Bug::WarpsIntoWalls,
    Bug::LeavesTheStage,
    Bug::SnagsOnJoints,
    Bug::LosesGround,
    Bug::HangsByPole,
    Bug::SkipsZones,
    Bug::DropsTooLong,
    Bug::ForgetsTheArt,
    Bug::ArtEndsHigh,
    Bug::ArtEndsLow,
];

/// A fault as the game itself sees it.
#[derive(Clone, Copy, Debug)]
pub struct Seen {
    pub tick: usize,
    pub bug: Bug,
    /// How much, px, where the game knows.
    pub figure: Option<f64>,
}
