//! The pack as JSON: small, or with a line a shape.

use super::{PACK_SCHEMA, Pack, PackActor, PackFrame, PackSide, PackStage};
use crate::words::json_words;
use serde::{Deserialize, Serialize};

/// Writes a pack: on one line where `spread` is false, else a line for each shape, layer and thing.
///
/// # Errors
/// Those of the JSON writer.
///
/// # Complexity
/// O(size).
pub fn to_json(pack: &Pack, layout: Layout) -> serde_json::Result<String> {
    match layout {
        Layout::Small => serde_json::to_string(pack).map(|text| text + "\n"),
        Layout::Lines => Lines::default().pack(pack),
    }
}

/// How text is laid out.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Layout {
    /// A line a shape, so that a change of one shape is a change of one line.
    Lines,
    /// No space that is not needed.
    Small,
}

/// Reads a pack.
///
/// # Errors
/// What is wrong, with line and column.
pub fn from_json(text: &str) -> Result<Pack, String> {
    let pack = serde_json::from_str::<Pack>(text);
    // What is of another schema has other keys: that is what is wrong with it.
    let schema = match &pack {
        Ok(pack) => Some(pack.schema.clone()),
        Err(_) => serde_json::from_str::<Head>(text).ok().map(|head| head.schema),
    };
    if let Some(schema) = schema.filter(|schema| *schema != PACK_SCHEMA) {
        return Err(format!("its schema is \"{schema}\", this program reads \"{PACK_SCHEMA}\""));
    }
    pack.map_err(|error| format!("line {}, column {}: {}", error.line(), error.column(), json_words(&error)))
}

/// The key that says what a file is.
#[derive(Deserialize)]
struct Head {
    schema: String,
}

/// Text with a line an item.
#[derive(Default)]
struct Lines {
    text: String,
}

impl Lines {
    fn pack(mut self, pack: &Pack) -> serde_json::Result<String> {
        let Pack { schema, project, tick_rate, space, layers, actors, stages } = pack;
        self.text.push('{');
        self.field("schema", schema)?;
        self.text.push_str(", ");
        self.field("project", project)?;
        self.text.push_str(", ");
        self.field("tick_rate", tick_rate)?;
        self.text.push_str(",\n ");
        self.field("space", space)?;
        self.text.push_str(",\n \"layers\": {");
        self.field("contact", &layers.contact)?;
        self.rest("names", &layers.names)?;
        self.rest("aliases", &layers.aliases)?;
        self.rest("states", &layers.states)?;
        self.text.push_str("},\n \"actors\": [");
        self.each(actors, Lines::actor)?;
        self.text.push_str("],\n \"stages\": [");
        self.each(stages, Lines::stage)?;
        self.text.push_str("]}\n");
        Ok(self.text)
    }

    fn actor(&mut self, actor: &PackActor) -> serde_json::Result<()> {
        let PackActor { name, shapes, attacks, animations, frames } = actor;
        self.text.push('{');
        self.field("name", name)?;
        self.rest("shapes", shapes)?;
        self.rest("attacks", attacks)?;
        self.rest("animations", animations)?;
        self.text.push_str(",\n  \"frames\": [");
        self.each(frames, Lines::frame)?;
        self.text.push_str("]}");
        Ok(())
    }

    fn frame(&mut self, frame: &PackFrame) -> serde_json::Result<()> {
        let PackFrame { animation, frame, ticks, sides } = frame;
        self.text.push('{');
        self.field("animation", animation)?;
        self.text.push_str(&format!(", \"frame\": {frame}, \"ticks\": {ticks}, \"sides\": ["));
        self.each(sides, |lines, side| {
            let PackSide { facing, art, anchors, shapes } = side;
            lines.text.push('{');
            lines.field("facing", facing)?;
            lines.text.push_str(", ");
            lines.field("art", art)?;
            lines.text.push_str(", ");
            lines.field("anchors", anchors)?;
            lines.rest("shapes", shapes)?;
            lines.text.push('}');
            Ok(())
        })?;
        self.text.push_str("]}");
        Ok(())
    }

    fn stage(&mut self, stage: &PackStage) -> serde_json::Result<()> {
        let PackStage { name, size, solids, one_ways, zones, spawns, spots } = stage;
        self.text.push('{');
        self.field("name", name)?;
        self.text.push_str(", ");
        self.field("size", size)?;
        self.rest("solids", solids)?;
        self.rest("one_ways", one_ways)?;
        self.rest("zones", zones)?;
        self.rest("spawns", spawns)?;
        self.rest("spots", spots)?;
        self.text.push('}');
        Ok(())
    }

    /// A key and its value on the same line.
    fn field<T: Serialize>(&mut self, key: &str, value: &T) -> serde_json::Result<()> {
        self.text.push_str(&format!("\"{key}\": {}", serde_json::to_string(value)?));
        Ok(())
    }

    /// A further key, whose items have a line each.
    fn rest<T: Serialize>(&mut self, key: &str, items: &[T]) -> serde_json::Result<()> {
        self.text.push_str(&format!(",\n  \"{key}\": ["));
        self.each(items, |lines, item| {
            lines.text.push_str(&serde_json::to_string(item)?);
            Ok(())
        })?;
        self.text.push(']');
        Ok(())
    }

    /// Items, each on a line of its own.
    fn each<T>(
        &mut self,
        items: &[T],
        mut item: impl FnMut(&mut Lines, &T) -> serde_json::Result<()>,
    ) -> serde_json::Result<()> {
        for (index, one) in items.iter().enumerate() {
            self.text.push_str(if index == 0 { "\n   " } else { ",\n   " });
            item(self, one)?;
        }
        Ok(())
    }
}
