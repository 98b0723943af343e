//! The page that plays takes: a template, a style sheet and scripts, joined into one file that loads nothing.
//!
//! Values reach the page as JSON in blocks that no browser runs, and the scripts set text, never markup: what users name stays
//! text. A content security policy lets in the one style sheet and the one script by their hashes, and pictures that the page
//! itself holds; nothing else.

use base64::Engine;
use minijinja::value::Serde;
use minijinja::{Environment, context};
use serde::Serialize;
use sha2::{Digest, Sha256};
use thiserror::Error;

const TEMPLATE: &str = include_str!("replay/page.html");
const STYLE: &str = include_str!("replay/style.css");

/// The scripts, in the order in which they run; they share one scope.
const SCRIPTS: [&str; 14] = [
    include_str!("replay/columns.js"),
    include_str!("replay/take.js"),
    include_str!("replay/dom.js"),
    include_str!("replay/view.js"),
    include_str!("replay/camera.js"),
    include_str!("replay/paint.js"),
    include_str!("replay/canvas.js"),
    include_str!("replay/timebar.js"),
    include_str!("replay/findings.js"),
    include_str!("replay/layers.js"),
    include_str!("replay/fits.js"),
    include_str!("replay/combat.js"),
    include_str!("replay/controls.js"),
    include_str!("replay/main.js"),
];

/// Whether a page renews itself.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Renewal {
    /// It is a file, and stays as it is.
    #[default]
    Never,
    /// It comes from a server that says when there is a newer one.
    OnEvents,
}

/// What the page shows.
#[derive(Clone, Copy, Debug)]
pub struct ReplayPage<'a> {
    /// Its heading.
    pub title: &'a str,
    /// Stage, actors and layers as JSON.
    pub data: &'a str,
    /// The takes as JSON, each on its own: one is read when it is opened.
    pub takes: &'a [String],
    /// Whether it renews itself.
    pub renewal: Renewal,
}

/// Why the page could not be made; a fault of this program.
#[derive(Debug, Error)]
#[error("the page could not be made: {0}")]
pub struct PageError(#[from] minijinja::Error);

#[derive(Serialize)]
struct Block {
    id: String,
    json: String,
}

/// A page that was made.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct MadePage {
    /// The HTML file.
    pub html: String,
    /// Another one for another page; the page knows its own.
    pub version: String,
}

/// The page as one HTML file.
///
/// # Errors
/// Faults of this program.
pub fn replay_page(page: &ReplayPage<'_>) -> Result<MadePage, PageError> {
    let mut environment = Environment::new();
    environment.set_auto_escape_callback(|_| minijinja::AutoEscape::Html);
    environment.set_undefined_behavior(minijinja::UndefinedBehavior::Strict);
    environment.add_template("page.html", TEMPLATE)?;
    let script = format!("(() => {{\n\"use strict\";\n{}\n}})();\n", SCRIPTS.join("\n"));
    let takes = page.takes.iter().enumerate().map(|(index, json)| block(format!("take-{}", index + 1), json));
    let mut blocks = vec![block("data".to_string(), page.data)];
    blocks.extend(takes);
    let connect = if page.renewal == Renewal::OnEvents { "'self'" } else { "'none'" };
    let policy = format!(
        "default-src 'none'; script-src '{}'; style-src '{}'; img-src data: blob:; connect-src {connect}; base-uri 'none'; \
         form-action 'none'",
        hash(&script),
        hash(STYLE)
    );
    let version = version(&script, &blocks);
    let html = environment.get_template("page.html")?.render(context! {
        title => page.title,
        policy => policy,
        style => STYLE,
        script => script,
        blocks => Serde(&blocks),
        renews => if page.renewal == Renewal::OnEvents { "true" } else { "false" },
        version => &version,
    })?;
    Ok(MadePage { html, version })
}

/// What tells a page from another.
fn version(script: &str, blocks: &[Block]) -> String {
    let mut digest = Sha256::new_with_prefix(script);
    blocks.iter().for_each(|block| digest.update(&block.json));
    digest.finalize().iter().take(8).map(|byte| format!("{byte:02x}")).collect()
}

/// JSON that cannot end the element around it.
fn block(id: String, json: &str) -> Block {
    Block { id, json: json.replace('<', "\\u003c") }
}

/// As a content security policy names what is written inline.
fn hash(text: &str) -> String {
    format!("sha256-{}", base64::engine::general_purpose::STANDARD.encode(Sha256::digest(text)))
}
