//! Where in the files a finding's fix is written.

use crate::project::OpenProject;
use finitor_core::change::{ChangeOf, Owned, SpawnOf};
use finitor_core::finding::{Finding, Place};
use finitor_core::take::actor_of;
use finitor_files::{ActorFile, TablePath, value_place};
use std::path::{Path, PathBuf};

/// A table of a file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct TablePlace {
    /// The file.
    pub(crate) path: PathBuf,
    /// The table.
    pub(crate) table: TablePath,
}

/// A line of a file.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct LineOf {
    /// The file.
    pub(crate) path: PathBuf,
    /// The line, from 1.
    pub(crate) line: usize,
}

/// Things of a stage are in one of these lists.
const LISTS: [&str; 3] = ["solid", "one_way", "zone"];

/// The files of a project, as far as findings speak of them.
pub(crate) struct FixPlaces<'p> {
    actors: &'p [ActorFile],
    /// Names of stages with their files.
    stages: Vec<(String, PathBuf)>,
    root: PathBuf,
}

impl<'p> FixPlaces<'p> {
    /// Of an open project; what cannot be loaded is not found.
    pub(crate) fn new(open: &'p OpenProject<'_>) -> FixPlaces<'p> {
        let stages = open.stage_files().unwrap_or_default().iter().map(|file| file.stage.name.clone());
        FixPlaces {
            actors: open.actor_files().unwrap_or_default(),
            stages: stages.zip(open.project.stages.iter().cloned()).collect(),
            root: open.project.root.clone(),
        }
    }

    fn actor(&self, name: &str) -> Option<&'p ActorFile> {
        self.actors.iter().find(|actor| actor.name == name)
    }

    fn stage(&self, name: &str) -> Option<&Path> {
        self.stages.iter().find(|(known, _)| known == name).map(|(_, path)| path.as_path())
    }

    /// The table that a change is about.
    pub(crate) fn table(&self, of: &ChangeOf) -> Option<TablePlace> {
        let in_actor =
            |actor: &ActorFile, names: &[&str]| TablePlace { path: actor.path.clone(), table: TablePath::named(names) };
        match of {
            ChangeOf::Shape(Owned { owner, name }) => self.shape(owner, name),
            ChangeOf::Anchor(Owned { owner, name }) => Some(in_actor(self.actor(owner)?, &["anchor", name])),
            ChangeOf::Moves(actor) => Some(in_actor(self.actor(actor)?, &["moves"])),
            ChangeOf::Pivot(Owned { owner, name }) => {
                let actor = self.actor(owner)?;
                let own = in_actor(actor, &["animation", name]);
                let has_own = |text: String| value_place(&text, &own.table, "pivot").is_some_and(|at| at.old.is_some());
                let is_own = std::fs::read_to_string(&actor.path).is_ok_and(has_own);
                Some(if is_own { own } else { in_actor(actor, &["actor"]) })
            }
            ChangeOf::Thing(Owned { owner, name }) => self.thing(owner, name),
            ChangeOf::Spawn(SpawnOf { stage, index }) => Some(TablePlace {
                path: self.stage(stage)?.to_path_buf(),
                table: TablePath::At { list: "spawn".to_string(), index: *index },
            }),
        }
    }

    /// `[shape.NAME]`, or the rule by part that makes it.
    fn shape(&self, actor: &str, shape: &str) -> Option<TablePlace> {
        let actor = self.actor(actor)?;
        let spec = actor.shapes.iter().find(|known| known.name == shape)?;
        let table = TablePath::named(&["shape", spec.siblings.as_ref().unwrap_or(&spec.name)]);
        Some(TablePlace { path: actor.path.clone(), table })
    }

    /// A thing of a stage, in whichever list it is.
    fn thing(&self, stage: &str, name: &str) -> Option<TablePlace> {
        let path = self.stage(stage)?;
        let text = std::fs::read_to_string(path).ok()?;
        let listed = |list: &&str| TablePath::Listed { list: (*list).to_string(), name: name.to_string() };
        let table = LISTS.iter().map(listed).find(|table| value_place(&text, table, "name").is_some())?;
        Some(TablePlace { path: path.to_path_buf(), table })
    }

    /// The line to look at for a finding: of the key that its fix changes, else of the table that it speaks of. `None` where no file
    /// of the project is known to be at fault, as where a game should end a step elsewhere.
    pub(crate) fn line(&self, finding: &Finding) -> Option<LineOf> {
        if let Some(change) = &finding.change
            && let Some(found) = self.table(&change.of).and_then(|at| line_of(&at, change.key))
        {
            return Some(found);
        }
        match &finding.place {
            Place::Take(_) => None,
            Place::Actor(place) => self.in_actor(&finding.subject, place),
            Place::Stage(name) => {
                let path = self.stage(&finding.subject)?.to_path_buf();
                // Of two things the first; what is about none, as a gap in the bottom, is about the stage's size.
                let thing = |name: &str| self.thing(&finding.subject, name).and_then(|at| line_of(&at, "name"));
                let of_two = || name.split_once(", ").and_then(|(first, _)| thing(first));
                let stage = TablePlace { path: path.clone(), table: TablePath::named(&["stage"]) };
                let size = || line_of(&stage, "size").or(Some(LineOf { path, line: 1 }));
                thing(name).or_else(of_two).or_else(size)
            }
            Place::Layers(name) => self.in_layers(name),
        }
    }

    /// A layer's mask, or an alias, where it has a line of its own; else the list of layers.
    fn in_layers(&self, name: &str) -> Option<LineOf> {
        let path = self.root.join("finitor.toml");
        let text = std::fs::read_to_string(&path).ok()?;
        let own = ["mask", "alias"].into_iter().find_map(|table| {
            let place = value_place(&text, &TablePath::named(&["layers", table]), name)?;
            place.old.is_some().then_some(place.line)
        });
        let list = || value_place(&text, &TablePath::named(&["layers"]), "names").map(|place| place.line);
        own.or_else(list).map(|line| LineOf { path, line })
    }

    /// Lines that go with a finding of a take: of the shape, and of what it overlapped or missed.
    pub(crate) fn lines_beside(&self, finding: &Finding, stage: &str) -> Vec<LineOf> {
        let Some(at) = finding.in_take() else { return Vec::new() };
        let own = self.shape(actor_of(&finding.subject), &at.shape);
        let other = match at.with.split_once('/') {
            Some((_, thing)) => self.thing(stage, thing),
            None => at.with.rsplit_once('.').and_then(|(label, shape)| self.shape(actor_of(label), shape)),
        };
        own.into_iter().chain(other).filter_map(|at| line_of(&at, "role").or_else(|| line_of(&at, "name"))).collect()
    }

    /// A place of an actor: `shape.body`, `anchor.lamp`, `walk`, `walk 2`.
    fn in_actor(&self, actor: &str, place: &str) -> Option<LineOf> {
        let path = self.actor(actor)?.path.clone();
        let names = match place.split_once('.') {
            Some((kind @ ("shape" | "anchor"), name)) => vec![kind, name],
            _ => vec!["animation", place.rsplit_once(' ').map_or(place, |(animation, _)| animation)],
        };
        let table = TablePlace { path: path.clone(), table: TablePath::named(&names) };
        line_of(&table, "").or(Some(LineOf { path, line: 1 }))
    }
}

/// The line of a key, or of its table's title.
fn line_of(at: &TablePlace, key: &str) -> Option<LineOf> {
    let text = std::fs::read_to_string(&at.path).ok()?;
    Some(LineOf { path: at.path.clone(), line: value_place(&text, &at.table, key)?.line })
}
