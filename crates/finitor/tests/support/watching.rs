//! `finitor watch` as it runs.

use super::Project;
use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};

/// A watch of a project, which ends with it.
pub struct Watching {
    child: Child,
    lines: Arc<Mutex<Vec<String>>>,
    errors: Arc<Mutex<Vec<String>>>,
}

impl Watching {
    /// Starts it, and waits until it watches.
    pub fn start(project: &Project, args: &[&str]) -> Watching {
        let mut child = Command::new(env!("CARGO_BIN_EXE_finitor"))
            .arg("watch")
            .args(args)
            .current_dir(project.root())
            .env_remove("RUST_BACKTRACE")
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()
            .unwrap();
        let lines = heard(child.stdout.take().unwrap());
        let errors = heard(child.stderr.take().unwrap());
        let watching = Watching { child, lines, errors };
        watching.until("it watches", |said| said.iter().any(|line| line.starts_with("watching ")));
        watching
    }

    /// What it said so far.
    pub fn said(&self) -> Vec<String> {
        self.lines.lock().unwrap().clone()
    }

    /// What it said on standard error so far.
    pub fn complained(&self) -> String {
        self.errors.lock().unwrap().join("\n")
    }

    /// Waits until what it said is as wanted.
    pub fn until(&self, what: &str, is_so: impl Fn(&[String]) -> bool) {
        let begin = Instant::now();
        while !is_so(&self.said()) {
            let so_far = || format!("{}\n{}", self.said().join("\n"), self.complained());
            assert!(begin.elapsed() < Duration::from_secs(30), "not after 30 s: {what}\n{}", so_far());
            std::thread::sleep(Duration::from_millis(5));
        }
    }

    /// Makes a change, and returns what it says of that.
    pub fn after(&self, change: impl FnOnce()) -> Vec<String> {
        let before = self.said().len();
        change();
        let ends = |line: &String| line.contains(" ticks, ") || line.starts_with("what was there");
        let is_told = |said: &[String]| said[before..].iter().any(ends);
        self.until("the change is reported", is_told);
        self.said()[before..].to_vec()
    }

    /// The address of the page.
    pub fn address(&self) -> String {
        self.until("it serves", |said| said.iter().any(|line| line.contains("http://")));
        let said = self.said();
        let line = said.iter().find(|line| line.contains("http://")).unwrap();
        line[line.find("http://").unwrap()..].trim().to_string()
    }

    /// Memory that it holds, kB; `None` where the system does not tell.
    pub fn memory(&self) -> Option<u64> {
        let status = std::fs::read_to_string(format!("/proc/{}/status", self.child.id())).ok()?;
        let line = status.lines().find_map(|line| line.strip_prefix("VmRSS:"))?;
        line.split_whitespace().next()?.parse().ok()
    }

    /// Ends it as Ctrl-C does; its exit code.
    #[cfg(unix)]
    pub fn interrupt(mut self) -> Option<i32> {
        let id = self.child.id().to_string();
        assert!(Command::new("kill").args(["-INT", &id]).status().unwrap().success());
        self.child.wait().unwrap().code()
    }
}

/// Gathers lines as they come.
fn heard(from: impl std::io::Read + Send + 'static) -> Arc<Mutex<Vec<String>>> {
    let lines = Arc::new(Mutex::new(Vec::new()));
    let heard = Arc::clone(&lines);
    std::thread::spawn(move || {
        for line in BufReader::new(from).lines().map_while(Result::ok) {
            heard.lock().unwrap().push(line);
        }
    });
    lines
}

impl Drop for Watching {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}
