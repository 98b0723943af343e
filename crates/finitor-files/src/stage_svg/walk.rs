//! A drawing's elements, with the transforms and the words that their groups give them.

use super::outline::{Element, subpaths};
use crate::problem::{Place, Problem};
use kurbo::Affine;
use roxmltree::{Document, Node};
use std::collections::BTreeMap;
use std::path::Path;
use std::str::FromStr;
use std::sync::Arc;

/// Groups in groups beyond which a file is no drawing.
const MOST_DEPTH: usize = 256;
/// Elements of a drawing at most.
const MOST_ELEMENTS: usize = 400_000;
/// Bytes of a drawing at most.
const MOST_BYTES: u64 = 64 * 1024 * 1024;

/// An element that is a shape and has a class that says what it is.
pub(super) struct Drawn {
    /// Its `id`.
    pub(super) id: Option<String>,
    /// The words of its class, those of its groups first.
    pub(super) words: Vec<Vec<String>>,
    /// Its `data-` attributes by what follows that, its groups' where it has none.
    pub(super) data: BTreeMap<String, String>,
    /// Where it stands in the file, bytes.
    pub(super) at: usize,
    /// Its outlines, px of the stage.
    pub(super) element: Element,
}

/// What is in a drawing.
pub(super) struct Drawing {
    /// Its shapes, in the file's order.
    pub(super) shapes: Vec<Drawn>,
    /// What is not read: where it stands, and why.
    pub(super) unread: Vec<(usize, String)>,
    /// The text.
    pub(super) text: Arc<str>,
}

/// Reads a drawing's elements. `is_thing` says whether the words of an element, its groups' first, say what it is.
pub(super) fn read(path: &Path, tolerance: f64, is_thing: impl Fn(&[Vec<String>]) -> bool) -> Result<Drawing, Problem> {
    let text = text_of(path)?;
    let document = parsed(path, &text)?;
    let problem = |node: Node<'_, '_>, message: String, hint: &str| {
        Problem { place: Some(place(&text, node.range().start)), ..Problem::of_file(path, message) }.with_hint(hint)
    };
    let root = document.root_element();
    if root.tag_name().name() != "svg" {
        return Err(problem(root, "the outermost element is not <svg>".into(), "save it as plain SVG"));
    }
    let mut shapes = Vec::new();
    let mut unread = Vec::new();
    // A stack of its own: files may be nested as deep as they like.
    let mut open = vec![(root, Inherited { transform: view(root), ..Inherited::default() })];
    while let Some((node, from)) = open.pop() {
        let (name, at) = (node.tag_name().name(), node.range().start);
        if !node.is_element() || !is_svg(node) || SILENT.contains(&name) {
            continue;
        }
        let own = from.within(node).map_err(|reason| problem(node, reason, "fix it in the editor and save again"))?;
        if own.depth > MOST_DEPTH {
            return Err(problem(
                node,
                format!("it lies in more than {MOST_DEPTH} groups"),
                "take it out of its groups",
            ));
        }
        let what = || match node.attribute("id") {
            Some(id) => format!("{name} \"{}\"", crate::problem::shown(id)),
            None => name.to_string(),
        };
        if is_hidden(node) {
            unread.push((at, format!("{} is hidden", what())));
            continue;
        }
        for attribute in ["clip-path", "mask"].into_iter().filter(|key| node.has_attribute(*key)) {
            unread.push((at, format!("{} is read whole: its {attribute} is not applied", what())));
        }
        if GROUPS.contains(&name) {
            // The last is on top of the stack: children come in the file's order.
            let children: Vec<_> = node.children().map(|child| (child, own.clone())).collect();
            open.extend(children.into_iter().rev());
            continue;
        }
        if !SHAPES.contains(&name) || !is_thing(&own.words) {
            let reason = if SHAPES.contains(&name) { "has no class that says what it is" } else { "is not a shape" };
            unread.push((at, format!("{} {reason}", what())));
            continue;
        }
        let element = subpaths(node, own.transform, tolerance)
            .map_err(|reason| problem(node, format!("{}: {reason}", what()), "fix it in the editor and save again"))?;
        let Some(element) = element else {
            unread.push((at, format!("{} has no extent", what())));
            continue;
        };
        let id = node.attribute("id").map(str::to_string);
        shapes.push(Drawn { id, words: own.words, data: own.data, at, element });
    }
    Ok(Drawing { shapes, unread, text: Arc::clone(&text) })
}

/// The elements of a text, where there are not too many.
fn parsed<'t>(path: &Path, text: &'t str) -> Result<Document<'t>, Problem> {
    let wrong = |message: String| Problem::of_file(path, message);
    let document = Document::parse(text).map_err(|error| {
        let hint = "save it as plain SVG, without a document type";
        wrong(format!("line {}, column {}: is no SVG: {error}", error.pos().row, error.pos().col)).with_hint(hint)
    })?;
    if document.descendants().count() > MOST_ELEMENTS {
        return Err(wrong(format!("has more than {MOST_ELEMENTS} elements")).with_hint("leave out what is not a shape"));
    }
    Ok(document)
}

/// What the file holds.
fn text_of(path: &Path) -> Result<Arc<str>, Problem> {
    let wrong = |message: String| Problem::of_file(path, message);
    let size = std::fs::metadata(path).map_err(|error| wrong(format!("cannot be read: {error}")))?.len();
    if size > MOST_BYTES {
        return Err(wrong(format!("has {size} bytes; a drawing has {MOST_BYTES} at most")));
    }
    let bytes = std::fs::read(path).map_err(|error| wrong(format!("cannot be read: {error}")))?;
    let text =
        String::from_utf8(bytes).map_err(|_| wrong("is no UTF-8 text".into()).with_hint("save it as plain SVG"))?;
    Ok(text.into())
}

/// A place of one element's beginning.
pub(super) fn place(text: &Arc<str>, at: usize) -> Place {
    Place::new(text, at..at + 1)
}

/// Elements that hold others and are drawn themselves through them.
const GROUPS: [&str; 4] = ["svg", "g", "a", "switch"];
/// Elements that are read.
const SHAPES: [&str; 7] = ["rect", "circle", "ellipse", "polygon", "polyline", "line", "path"];
/// Elements that draw nothing themselves.
const SILENT: [&str; 5] = ["title", "desc", "metadata", "defs", "style"];

/// Elements of an editor's own say nothing of the stage.
fn is_svg(node: Node<'_, '_>) -> bool {
    node.tag_name().namespace().is_none_or(|space| space == "http://www.w3.org/2000/svg")
}

fn is_hidden(node: Node<'_, '_>) -> bool {
    let styled = |key: &str, value: &str| {
        let style = node.attribute("style").unwrap_or_default();
        let in_style = style.split(';').filter_map(|part| part.split_once(':'));
        node.attribute(key).is_some_and(|own| own.trim() == value)
            || in_style.into_iter().any(|(k, v)| k.trim() == key && v.trim() == value)
    };
    styled("display", "none") || styled("visibility", "hidden")
}

/// What an element has from its groups.
#[derive(Clone)]
struct Inherited {
    transform: Affine,
    words: Vec<Vec<String>>,
    data: BTreeMap<String, String>,
    depth: usize,
}

impl Default for Inherited {
    fn default() -> Inherited {
        Inherited { transform: Affine::IDENTITY, words: Vec::new(), data: BTreeMap::new(), depth: 0 }
    }
}

impl Inherited {
    /// With what an element adds itself.
    fn within(&self, node: Node<'_, '_>) -> Result<Inherited, String> {
        let mut own = Inherited { depth: self.depth + 1, ..self.clone() };
        if let Some(text) = node.attribute("transform") {
            own.transform *= transform(text)?;
        }
        let words: Vec<String> =
            node.attribute("class").unwrap_or_default().split_whitespace().map(str::to_string).collect();
        if !words.is_empty() {
            own.words.push(words);
        }
        for attribute in node.attributes() {
            if let Some(key) = attribute.name().strip_prefix("data-") {
                own.data.insert(key.to_string(), attribute.value().to_string());
            }
        }
        Ok(own)
    }
}

/// A `transform` attribute.
pub(crate) fn transform(text: &str) -> Result<Affine, String> {
    let own = svgtypes::Transform::from_str(text).map_err(|error| format!("a transform cannot be read: {error}"))?;
    Ok(Affine::new([own.a, own.b, own.c, own.d, own.e, own.f]))
}

/// From the units of a drawing to px: its `viewBox` onto its `width` and `height` where those are px, else a unit is a px.
fn view(root: Node<'_, '_>) -> Affine {
    let Some(of) = root.attribute("viewBox").and_then(|text| svgtypes::ViewBox::from_str(text).ok()) else {
        return Affine::IDENTITY;
    };
    let px = |key: &str| -> Option<f64> {
        let text = root.attribute(key)?.trim();
        let number: f64 = text.strip_suffix("px").unwrap_or(text).trim().parse().ok()?;
        (number > 0.0 && number.is_finite()).then_some(number)
    };
    let (width, height) = (px("width").unwrap_or(of.w), px("height").unwrap_or(of.h));
    let (mut x, mut y) = (width / of.w, height / of.h);
    let stretches = root.attribute("preserveAspectRatio").is_some_and(|ratio| ratio.trim().starts_with("none"));
    if !stretches {
        x = x.min(y);
        y = x;
    }
    // What the ratio leaves free lies on both sides, as browsers show it.
    let room = ((width - of.w * x) / 2.0, (height - of.h * y) / 2.0);
    if (x, y, of.x, of.y) == (1.0, 1.0, 0.0, 0.0) && room == (0.0, 0.0) {
        return Affine::IDENTITY;
    }
    Affine::translate(room) * Affine::scale_non_uniform(x, y) * Affine::translate((0.0 - of.x, 0.0 - of.y))
}
