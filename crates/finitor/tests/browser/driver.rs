//! A headless browser that is driven by WebDriver (W3C).

use serde_json::{Value, json};
use std::io::{BufRead, BufReader};
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};
use tempfile::TempDir;

/// A size of the page, px.
#[derive(Clone, Copy, Debug)]
pub struct PageSize {
    pub width: u32,
    pub height: u32,
}

/// That of most pictures.
pub const USUAL: PageSize = PageSize { width: 1280, height: 800 };

/// A browser with one page, which ends with it.
pub struct Browser {
    driver: Child,
    session: String,
    agent: ureq::Agent,
    _profile: TempDir,
}

impl Browser {
    /// Starts the driver, and a browser without a window.
    pub fn start(size: PageSize) -> Browser {
        let mut driver = Command::new("chromedriver")
            .arg("--port=0")
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .expect("chromedriver, of Debian's chromium-driver, runs");
        let mut lines = BufReader::new(driver.stdout.take().unwrap()).lines().map_while(Result::ok);
        let started = lines.find_map(|line| line.split_once("successfully on port ").map(|(_, port)| port.to_string()));
        let port: u16 = started.unwrap().trim_end_matches('.').parse().unwrap();
        // Nobody reads the rest, and it must not block.
        std::thread::spawn(move || lines.for_each(drop));
        let profile = tempfile::tempdir().unwrap();
        let own = format!("--user-data-dir={}", profile.path().display());
        let args = [
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-dev-shm-usage",
            own.as_str(),
        ];
        let chrome = json!({ "args": args, "binary": binary() });
        let wishes =
            json!({ "browserName": "chrome", "goog:loggingPrefs": { "browser": "ALL" }, "goog:chromeOptions": chrome });
        let agent: ureq::Agent = ureq::Agent::config_builder()
            .http_status_as_error(false)
            .timeout_global(Some(Duration::from_secs(60)))
            .build()
            .into();
        let mut browser =
            Browser { driver, session: format!("http://127.0.0.1:{port}/session"), agent, _profile: profile };
        let made = browser.post("", &json!({ "capabilities": { "alwaysMatch": wishes } }));
        browser.session = format!("{}/{}", browser.session, made["sessionId"].as_str().unwrap());
        browser.resize(size);
        browser
    }

    /// Makes the page this large: the window is larger by what surrounds it.
    pub fn resize(&self, size: PageSize) {
        let PageSize { width, height } = size;
        self.post("/window/rect", &json!({ "width": width, "height": height }));
        let inner = self.run("return [innerWidth, innerHeight]");
        let missing = |wanted: u32, has: &Value| u64::from(2 * wanted) - has.as_u64().unwrap();
        let (width, height) = (missing(width, &inner[0]), missing(height, &inner[1]));
        self.post("/window/rect", &json!({ "width": width, "height": height }));
    }

    fn post(&self, path: &str, body: &Value) -> Value {
        let mut answer = self.agent.post(format!("{}{path}", self.session)).send_json(body).unwrap();
        let value: Value = answer.body_mut().read_json().unwrap();
        assert!(answer.status().is_success(), "{path} {body}: {value}");
        value["value"].clone()
    }

    /// Opens a page.
    pub fn open(&self, address: &str) {
        self.post("/url", &json!({ "url": address }));
    }

    /// Opens a file of this machine, at a place of it.
    pub fn open_file(&self, path: &Path, place: &str) {
        // Another place of the same file is no new page.
        self.open("about:blank");
        let path: String = path.display().to_string().bytes().map(|byte| format!("%{byte:02x}")).collect();
        self.open(&format!("file://{}{place}", path.replace("%2f", "/")));
    }

    /// Runs a script and returns what it returns.
    pub fn run(&self, script: &str) -> Value {
        self.post("/execute/sync", &json!({ "script": script, "args": [] }))
    }

    /// Runs a script that calls `done` with what it found.
    pub fn wait_for(&self, script: &str) -> Value {
        let script = format!("const done = arguments[arguments.length - 1]; {script}");
        self.post("/execute/async", &json!({ "script": script, "args": [] }))
    }

    /// Waits until an expression is true.
    pub fn until(&self, expression: &str) {
        let begin = Instant::now();
        while self.run(&format!("return Boolean({expression})")) != true {
            assert!(begin.elapsed() < Duration::from_secs(20), "not true after 20 s: {expression}");
            std::thread::sleep(Duration::from_millis(20));
        }
    }

    /// The text of an element as it is seen.
    pub fn text(&self, selector: &str) -> String {
        self.run(&format!("return document.querySelector({selector:?}).innerText")).as_str().unwrap().to_string()
    }

    /// A real click on the middle of an element.
    pub fn click(&self, selector: &str) {
        let script = format!(
            "const e = document.querySelector({selector:?}); e.scrollIntoView({{ block: 'center' }}); \
             const b = e.getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2]"
        );
        let at = self.run(&script);
        self.click_at(at[0].as_f64().unwrap(), at[1].as_f64().unwrap());
    }

    /// A real click on a place of the page.
    pub fn click_at(&self, x: f64, y: f64) {
        let to = json!({ "type": "pointerMove", "duration": 0, "x": x.round(), "y": y.round() });
        let press = [to, json!({ "type": "pointerDown", "button": 0 }), json!({ "type": "pointerUp", "button": 0 })];
        let mouse =
            json!({ "type": "pointer", "id": "mouse", "parameters": { "pointerType": "mouse" }, "actions": press });
        self.post("/actions", &json!({ "actions": [mouse] }));
    }

    /// Moves fingers at once, each from a place to a place of the page.
    pub fn fingers(&self, ways: &[[f64; 4]]) {
        let finger = |(index, [x0, y0, x1, y1]): (usize, &[f64; 4])| {
            let to = |x: &f64, y: &f64, time: u32| json!({ "type": "pointerMove", "duration": time, "x": x.round(), "y": y.round() });
            let (down, up) =
                (json!({ "type": "pointerDown", "button": 0 }), json!({ "type": "pointerUp", "button": 0 }));
            let actions = [to(x0, y0, 0), down, to(x1, y1, 100), up];
            json!({ "type": "pointer", "id": format!("finger{index}"), "parameters": { "pointerType": "touch" }, "actions": actions })
        };
        let fingers: Vec<Value> = ways.iter().enumerate().map(finger).collect();
        self.post("/actions", &json!({ "actions": fingers }));
    }

    /// Presses keys, one after another; `\u{e014}` is the right arrow and so on, by the standard.
    pub fn press(&self, keys: &str) {
        let each = keys
            .chars()
            .flat_map(|key| ["keyDown", "keyUp"].map(|kind| json!({ "type": kind, "value": key.to_string() })));
        let actions: Vec<Value> = each.collect();
        self.post("/actions", &json!({ "actions": [{ "type": "key", "id": "keys", "actions": actions }] }));
    }

    /// Chooses an option of a list.
    pub fn choose(&self, selector: &str, value: &str) {
        self.run(&format!(
            "const e = document.querySelector({selector:?}); e.value = {value:?}; \
             e.dispatchEvent(new Event('input', {{ bubbles: true }})); e.dispatchEvent(new Event('change', {{ bubbles: true }}))"
        ));
    }

    /// What the page complained about since it was last asked.
    pub fn complaints(&self) -> Vec<String> {
        let log = self.post("/se/log", &json!({ "type": "browser" }));
        log.as_array().unwrap().iter().map(|entry| entry["message"].to_string()).collect()
    }

    /// The page as a PNG.
    pub fn picture(&self) -> Vec<u8> {
        use base64::Engine;
        let mut answer = self.agent.get(format!("{}/screenshot", self.session)).call().unwrap();
        let value: Value = answer.body_mut().read_json().unwrap();
        base64::engine::general_purpose::STANDARD.decode(value["value"].as_str().unwrap()).unwrap()
    }
}

/// The browser itself where it is known; else the driver looks for it.
fn binary() -> &'static str {
    ["/usr/bin/chromium", "/usr/bin/chromium-browser"]
        .into_iter()
        .find(|path| Path::new(path).exists())
        .unwrap_or("chromium")
}

impl Drop for Browser {
    fn drop(&mut self) {
        let _ = self.agent.delete(&self.session).call();
        let _ = self.driver.kill();
        let _ = self.driver.wait();
    }
}
