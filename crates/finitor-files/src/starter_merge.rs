//! Adding to an actor file what it lacks, and nothing else.

use crate::cells::parse_list;
use crate::starter::{Starter, StarterAnimation, StarterFrames, StarterSheet, sheet_text};
use finitor_core::art::{Cutting, Grid};
use std::collections::BTreeSet;
use toml_edit::{ArrayOfTables, DocumentMut, Item, Table};

impl Starter {
    /// Adds to a file what it lacks; comments and order stay. Gives the new text and what was added, in words.
    ///
    /// # Errors
    /// What is wrong with the file's syntax.
    pub fn merged_into(&self, text: &str) -> Result<(String, Vec<String>), String> {
        let mut doc: DocumentMut = text.parse().map_err(|error: toml_edit::TomlError| error.to_string())?;
        let mut added = Vec::new();
        self.merge_head(&mut doc, &mut added);
        let sheets = self.merge_sheets(&mut doc, &mut added);
        self.merge_animations(&mut doc, &sheets, &mut added);
        self.merge_shapes(&mut doc, &mut added);
        Ok((doc.to_string(), added))
    }

    fn merge_head(&self, doc: &mut DocumentMut, added: &mut Vec<String>) {
        let fresh = parsed(&self.head());
        if !doc.contains_table("actor") {
            place(doc.as_table_mut(), "actor", fresh["actor"].clone());
            added.push("[actor]".to_string());
            return;
        }
        let own_pivots = doc
            .get("animation")
            .and_then(Item::as_table_like)
            .is_some_and(|animations| animations.iter().any(|(_, animation)| animation.get("pivot").is_some()));
        let Some(actor) = doc["actor"].as_table_mut() else {
            return;
        };
        for key in ["name", "pivot"] {
            let elsewhere = key == "pivot" && own_pivots;
            if !actor.contains_key(key) && !elsewhere {
                actor.insert(key, fresh["actor"][key].clone());
                added.push(format!("{key} in [actor]"));
            }
        }
    }

    /// Adds the sheets that are missing. By sheet: the name that animations call it by, where they must name it; `None`
    /// for a sheet that has no name to call it by.
    fn merge_sheets(&self, doc: &mut DocumentMut, added: &mut Vec<String>) -> Vec<Option<Option<String>>> {
        let mut names = Vec::new();
        for sheet in &self.sheets {
            let known = doc.get("sheet").and_then(Item::as_array_of_tables);
            let place = known.and_then(|tables| {
                tables.iter().position(|table| table.get("image").and_then(Item::as_str) == Some(&sheet.image))
            });
            let count = known.map_or(0, ArrayOfTables::len);
            if let (Some(place), Some(known)) = (place, known) {
                let name = known.get(place).and_then(|table| table.get("name")).and_then(Item::as_str);
                names.push(match (place, name) {
                    (0, _) => Some(None),
                    (_, Some(name)) => Some(Some(name.to_string())),
                    (_, None) => None,
                });
                continue;
            }
            let taken: BTreeSet<&str> = known
                .into_iter()
                .flat_map(|tables| tables.iter().filter_map(|table| table.get("name").and_then(Item::as_str)))
                .collect();
            let name = free_name(&sheet.name, |name| taken.contains(name));
            let fresh = parsed(&sheet_text(&StarterSheet { name: name.clone(), ..sheet.clone() }));
            let table = fresh["sheet"].as_array_of_tables().and_then(|tables| tables.get(0)).cloned();
            if let (Some(mut table), Some(tables)) = (
                table,
                doc.entry("sheet").or_insert(Item::ArrayOfTables(ArrayOfTables::new())).as_array_of_tables_mut(),
            ) {
                table.set_position(None);
                table.decor_mut().set_prefix("\n");
                tables.push(table);
                added.push(format!("[[sheet]] {}", sheet.image));
            }
            names.push(Some((count > 0).then_some(name)));
        }
        names
    }

    fn merge_animations(&self, doc: &mut DocumentMut, sheets: &[Option<Option<String>>], added: &mut Vec<String>) {
        let known = Known::of(doc);
        // The file's pivot was set for the art it names; art that is new to it may lie otherwise in its cells.
        let new_sheet = |sheet: usize| added.contains(&format!("[[sheet]] {}", self.sheets[sheet].image));
        let pivot = doc.get("actor").and_then(|actor| actor.get("pivot")).map(|pivot| pivot.to_string());
        let bare = |text: &str| text.split('#').next().unwrap_or("").split_whitespace().collect::<String>();
        let other_pivot = pivot.is_some_and(|pivot| bare(&pivot) != bare(&self.pivot.value()));
        let own_pivot: Vec<bool> = self
            .animations
            .iter()
            .map(|animation| match &animation.frames {
                StarterFrames::Cells(sheet, _) => other_pivot && new_sheet(*sheet),
                StarterFrames::Files(..) | StarterFrames::File(_) => other_pivot,
            })
            .collect();
        for (animation, own_pivot) in self.animations.iter().zip(own_pivot) {
            let sheet_name = match &animation.frames {
                StarterFrames::Cells(sheet, _) => match &sheets[*sheet] {
                    Some(name) => name.clone(),
                    None => continue,
                },
                _ => None,
            };
            let Some(frames) = known.unused(&animation.frames, sheet_name.as_deref()) else {
                continue;
            };
            let animations = doc.entry("animation").or_insert_with(implicit);
            let Some(table) = animations.as_table_mut() else {
                return;
            };
            let name = free_name(&animation.name, |name| table.contains_key(name));
            let pivot = animation.pivot.clone().or_else(|| own_pivot.then(|| self.pivot.clone()));
            let animation = StarterAnimation { name: name.clone(), pivot, frames, ..animation.clone() };
            let one = Starter { sheets: Vec::new(), ..self.clone() };
            let fresh = parsed(&one.animation_text(&animation, sheet_name.as_deref()));
            place(table, &name, fresh["animation"][&name].clone());
            added.push(format!("[animation.{name}]"));
        }
    }

    fn merge_shapes(&self, doc: &mut DocumentMut, added: &mut Vec<String>) {
        let has_role = |doc: &DocumentMut, role: &str| {
            doc.get("shape").and_then(Item::as_table_like).is_some_and(|shapes| {
                shapes.iter().any(|(_, shape)| shape.get("role").and_then(Item::as_str) == Some(role))
            })
        };
        let new = [
            ("body", "body", self.body_text()),
            ("figure", "hurt", self.figure_text()),
            ("feet", "sensor", self.feet_text()),
        ];
        for (name, role, text) in new {
            let follows = role != "sensor" || doc.get("shape").is_some_and(|shapes| shapes.get("body").is_some());
            let taken = doc.get("shape").is_some_and(|shapes| shapes.get(name).is_some());
            if has_role(doc, role) || taken || !follows {
                continue;
            }
            let fresh = parsed(&text);
            if let Some(shapes) = doc.entry("shape").or_insert_with(implicit).as_table_mut() {
                place(shapes, name, fresh["shape"][name].clone());
                added.push(format!("[shape.{name}]"));
            }
        }
    }
}

/// Text of this module as a document.
fn parsed(text: &str) -> DocumentMut {
    text.parse().unwrap_or_default()
}

fn implicit() -> Item {
    let mut table = Table::new();
    table.set_implicit(true);
    Item::Table(table)
}

/// Puts a table after its new siblings, an empty line before it.
fn place(into: &mut Table, name: &str, mut item: Item) {
    if let Some(table) = item.as_table_mut() {
        table.set_position(None);
        let comments = table.decor().prefix().and_then(|prefix| prefix.as_str()).unwrap_or("").trim_start().to_string();
        table.decor_mut().set_prefix(format!("\n{comments}"));
    }
    into.insert(name, item);
}

/// The name, or with the first number that is free.
fn free_name(name: &str, taken: impl Fn(&str) -> bool) -> String {
    let mut free = name.to_string();
    let mut number = 2;
    while taken(&free) {
        free = format!("{name}_{number}");
        number += 1;
    }
    free
}

/// What the animations of a file use already.
struct Known {
    /// Sheet name, empty for the first, and cell.
    cells: BTreeSet<(String, u32)>,
    patterns: Vec<String>,
    files: BTreeSet<String>,
}

impl Known {
    fn of(doc: &DocumentMut) -> Known {
        let mut known = Known { cells: BTreeSet::new(), patterns: Vec::new(), files: BTreeSet::new() };
        let first = doc.get("sheet").and_then(Item::as_array_of_tables).and_then(|tables| tables.get(0));
        let first = first.and_then(|table| table.get("name")).and_then(Item::as_str).unwrap_or("").to_string();
        for (_, animation) in doc.get("animation").and_then(Item::as_table_like).into_iter().flat_map(|t| t.iter()) {
            let text = |key: &str| animation.get(key).and_then(Item::as_str);
            let sheet = text("sheet").filter(|name| *name != first).unwrap_or("").to_string();
            let cells = text("cells").and_then(|cells| parse_list(cells).ok()).unwrap_or_default();
            known.cells.extend(cells.into_iter().map(|cell| (sheet.clone(), cell)));
            known.files.extend(text("file").map(str::to_string));
            known.patterns.extend(text("files").map(str::to_string));
            let list = animation.get("files").and_then(Item::as_array);
            let listed = list.into_iter().flatten().filter_map(|value| value.as_str());
            known.patterns.extend(listed.map(str::to_string));
        }
        known
    }

    /// What of the frames no animation uses yet; `None` when that is nothing.
    fn unused(&self, frames: &StarterFrames, sheet: Option<&str>) -> Option<StarterFrames> {
        let used = match frames {
            StarterFrames::Cells(index, cells) => {
                let free = |cell: &&u32| !self.cells.contains(&(sheet.unwrap_or("").to_string(), **cell));
                let rest: Vec<u32> = cells.iter().filter(free).copied().collect();
                return (!rest.is_empty()).then_some(StarterFrames::Cells(*index, rest));
            }
            StarterFrames::File(file) => self.files.contains(file),
            StarterFrames::Files(patterns, files) => self.patterns.iter().any(|known| {
                let matches = |file: &String| glob::Pattern::new(known).is_ok_and(|known| known.matches(file));
                patterns.contains(known) || files.iter().any(matches)
            }),
        };
        (!used).then(|| frames.clone())
    }
}

/// How an actor file cuts the sheet of an image; `None` when it does not name it, or does not cut it.
pub fn known_cut(text: &str, image: &str) -> Option<Cutting> {
    let doc: DocumentMut = text.parse().ok()?;
    let tables = doc.get("sheet")?.as_array_of_tables()?;
    let sheet = tables.iter().find(|table| table.get("image").and_then(Item::as_str) == Some(image))?;
    let whole = |value: i64| u32::try_from(value).ok();
    let pair = |key: &str| -> Option<(u32, u32)> {
        let item = sheet.get(key)?;
        match item.as_integer() {
            Some(both) => Some((whole(both)?, whole(both)?)),
            None => {
                let list = item.as_array()?;
                Some((whole(list.get(0)?.as_integer()?)?, whole(list.get(1)?.as_integer()?)?))
            }
        }
    };
    let gap = pair("gap").unwrap_or_default();
    if sheet.get("cut").and_then(Item::as_str) == Some("gaps") {
        return Some(Cutting::Gaps(gap.0.max(1)));
    }
    let before = pair("margin").unwrap_or_default();
    // One number is room on all sides, two are only the room before the first cell.
    let is_around = sheet.get("margin").is_some_and(|margin| margin.as_integer().is_some());
    let after = if is_around { before } else { (0, 0) };
    Some(Cutting::Given(Grid { cell: pair("cell")?, before, after, gap }))
}
