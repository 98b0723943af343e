//! JSON Schemas (2020-12) of the files that people and games write; editors of TOML complete and check by them.

/// A schema.
#[derive(Clone, Copy, Debug)]
pub struct FileSchema {
    /// Its name.
    pub name: &'static str,
    /// The file that it is of.
    pub about: &'static str,
    /// Its text.
    pub text: &'static str,
}

/// Those of all files.
pub const FILE_SCHEMAS: [FileSchema; 4] = [
    FileSchema { name: "project", about: "finitor.toml", text: include_str!("schemas/project.json") },
    FileSchema { name: "actor", about: "actors/NAME.toml", text: include_str!("schemas/actor.json") },
    FileSchema { name: "stage", about: "stages/NAME.toml", text: include_str!("schemas/stage.json") },
    FileSchema { name: "take", about: "a line of takes/NAME.jsonl", text: include_str!("schemas/take.json") },
];
