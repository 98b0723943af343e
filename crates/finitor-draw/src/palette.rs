//! Colours and patterns. Roles differ by hue and by line and fill pattern, so that people who do not see all hues can
//! tell them apart.

use finitor_core::actor::Role;

pub(crate) const PAGE: &str = "#1b1f2a";
pub(crate) const CELL: &str = "#59627a";
pub(crate) const CELL_OTHER: &str = "#626c85";
pub(crate) const INK: &str = "#eef1f7";
pub(crate) const QUIET_INK: &str = "#c3cbdc";
pub(crate) const GROUND_LINE: &str = "#c9d1e3";
pub(crate) const PIVOT: &str = "#ffffff";
pub(crate) const FAULT: &str = "#ff5a4f";
pub(crate) const BODY: &str = "#ffb020";
pub(crate) const HURT: &str = "#5cc8ff";
pub(crate) const HIT: &str = "#c77dff";
pub(crate) const SENSOR: &str = "#d6dae2";
pub(crate) const SOLID: &str = "#8d9bb8";
pub(crate) const ONE_WAY: &str = "#35d0ba";
pub(crate) const ZONE: &str = "#ff8fb1";
pub(crate) const DUSK: &str = "#353d5c";

/// Whether pages are dark or light.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Theme {
    /// Light on dark.
    #[default]
    Dark,
    /// Dark on light, as for printing.
    Light,
}

impl Theme {
    /// The colour that stands for one of the dark page's.
    pub(crate) fn colour(self, dark: &'static str) -> &'static str {
        if self == Theme::Dark {
            return dark;
        }
        match dark {
            PAGE => "#f7f8fb",
            CELL => "#c9d0de",
            CELL_OTHER => "#bcc4d4",
            INK => "#151a24",
            QUIET_INK => "#414b5f",
            GROUND_LINE => "#3f4a60",
            PIVOT => "#000000",
            FAULT => "#b3170c",
            DUSK => "#e3e8f3",
            BODY => "#8f5400",
            HURT => "#005f95",
            HIT => "#7420ad",
            SENSOR => "#4a5263",
            SOLID => "#4b5a78",
            ONE_WAY => "#006b5d",
            ZONE => "#a81548",
            other => other,
        }
    }
}

/// How a ring looks.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Look {
    /// A shape, by role.
    Role(RoleLook),
    /// A solid.
    Solid,
    /// A one-way platform; its chevrons are drawn beside it.
    OneWay,
    /// A trigger zone.
    Zone,
}

/// A role's look.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum RoleLook {
    /// Amber, solid.
    Body,
    /// Sky, dotted fill.
    Hurt,
    /// Violet, cross-hatched.
    Hit,
    /// Grey, dashed.
    Sensor,
}

impl From<Role> for Look {
    fn from(role: Role) -> Look {
        Look::Role(match role {
            Role::Body => RoleLook::Body,
            Role::Hurt => RoleLook::Hurt,
            Role::Hit => RoleLook::Hit,
            Role::Sensor => RoleLook::Sensor,
        })
    }
}

/// A look in detail.
pub(crate) struct Style {
    /// Name of its fill pattern in the SVG.
    pub(crate) id: &'static str,
    /// Colour of line and pattern.
    pub(crate) colour: &'static str,
    /// Line thickness, px.
    pub(crate) width: f64,
    /// Dash and gap, as SVG writes them; empty for a solid line.
    pub(crate) dash: &'static str,
    /// Opacity of the flat fill under the pattern.
    pub(crate) tint: f64,
    /// Side of the pattern's square, px, and its drawing.
    pub(crate) pattern: (u32, &'static str),
}

impl Look {
    /// All looks, in the order of legends.
    pub(crate) const ALL: [Look; 7] = [
        Look::Role(RoleLook::Body),
        Look::Role(RoleLook::Hurt),
        Look::Role(RoleLook::Hit),
        Look::Role(RoleLook::Sensor),
        Look::Solid,
        Look::OneWay,
        Look::Zone,
    ];

    /// The look in words.
    pub(crate) fn name(self) -> &'static str {
        match self {
            Look::Role(RoleLook::Body) => "body",
            Look::Role(RoleLook::Hurt) => "hurt",
            Look::Role(RoleLook::Hit) => "hit",
            Look::Role(RoleLook::Sensor) => "sensor",
            Look::Solid => "solid",
            Look::OneWay => "one-way",
            Look::Zone => "zone",
        }
    }

    pub(crate) fn style(self) -> Style {
        let style = |id, colour, width, dash, tint, pattern| Style { id, colour, width, dash, tint, pattern };
        match self {
            Look::Role(RoleLook::Body) => style("body", BODY, 2.0, "", 0.16, (8, "")),
            Look::Role(RoleLook::Hurt) => {
                style("hurt", HURT, 1.4, "", 0.0, (5, "<circle cx=\"1.5\" cy=\"1.5\" r=\"0.9\"/>"))
            }
            Look::Role(RoleLook::Hit) => {
                style("hit", HIT, 1.6, "", 0.0, (6, "<path d=\"M0 0L6 6M6 0L0 6\" stroke-width=\"0.9\"/>"))
            }
            Look::Role(RoleLook::Sensor) => style("sensor", SENSOR, 1.2, "4 3", 0.0, (8, "")),
            Look::Solid => {
                style("solid", SOLID, 1.4, "", 0.30, (8, "<path d=\"M-1 5L5 -1M3 9L9 3\" stroke-width=\"1\"/>"))
            }
            Look::OneWay => style("one_way", ONE_WAY, 1.6, "", 0.30, (8, "")),
            Look::Zone => style("zone", ZONE, 1.4, "2 3", 0.0, (9, "<circle cx=\"2\" cy=\"2\" r=\"1\"/>")),
        }
    }
}
