//! `finitor watch`.

mod serve;
mod words;

use crate::cli::{Global, WatchArgs};
use crate::console::Console;
use crate::exit::{Exit, report};
use finitor_app::{Drawing, Failure, OpenOptions, PictureWishes, Watch, WatchNews, WatchRequest, actor_sheet};
use finitor_draw::Renewal;
use finitor_files::write_atomically;
use notify_debouncer_full::notify::event::{AccessKind, AccessMode};
use notify_debouncer_full::notify::{EventKind, RecommendedWatcher, RecursiveMode};
use notify_debouncer_full::{DebounceEventResult, Debouncer, RecommendedCache, new_debouncer};
use serve::Server;
use std::collections::BTreeSet;
use std::io::Write;
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, channel};
use std::time::{Duration, Instant, SystemTime};
use words::Told;

/// A file that was not written to for so long is taken to be whole.
const QUIET: Duration = Duration::from_millis(30);
/// A file that is wrong may be half written: it is read again after this before its mistake is reported.
const AGAIN: Duration = Duration::from_millis(120);
/// And so often at most, while it is written to.
const TRIES: usize = 8;

/// What wakes it.
enum Wake {
    Files(Vec<PathBuf>),
    /// The system lost count of what changed.
    Unknown,
    Stop,
}

/// Watches until Ctrl-C.
pub(super) fn run(global: &Global, console: &Console, args: &WatchArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let options =
        OpenOptions { root: global.project.clone(), threads: global.threads.map(usize::from), max_mpx: global.max_mpx };
    let page = match (args.serve, &args.page) {
        (Some(_), _) => Some(Renewal::OnEvents),
        (None, Some(_)) => Some(Renewal::Never),
        (None, None) => None,
    };
    let request = WatchRequest {
        takes: args.takes.clone(),
        stage: args.checks.stage.clone(),
        rules: args.checks.filter.rule.clone(),
        actors: args.checks.filter.actor.clone(),
        ticks: args.checks.filter.ticks,
        mixed: args.checks.mixed,
        are_growing: args.follow,
        page,
    };
    let (sender, wakes) = channel();
    let stops = sender.clone();
    ctrlc::set_handler(move || drop(stops.send(Wake::Stop)))
        .map_err(|error| Failure::Usage(format!("cannot wait for Ctrl-C: {error}")))?;
    let heard = move |found: DebounceEventResult| drop(sender.send(wake(found)));
    let debouncer = new_debouncer(QUIET, Some(QUIET / 3), heard).map_err(|error| cannot_watch(&error))?;
    let server = args.serve.map(Server::start).transpose()?;
    let mut watching =
        Watching { watch: Watch::new(options, console, request), args, debouncer, folders: BTreeSet::new(), server };
    watching.run(&wakes, out)
}

fn cannot_watch(error: &dyn std::error::Error) -> Failure {
    Failure::Usage(format!("the system cannot tell of changed files: {error}"))
}

/// What changed, but for files that were only read.
fn wake(found: DebounceEventResult) -> Wake {
    let Ok(events) = found else { return Wake::Unknown };
    if events.iter().any(|event| event.need_rescan()) {
        return Wake::Unknown;
    }
    let is_change = |kind: &EventKind| match kind {
        EventKind::Access(AccessKind::Close(AccessMode::Write)) => true,
        EventKind::Access(_) => false,
        _ => true,
    };
    let changed = events.into_iter().filter(|event| is_change(&event.event.kind));
    Wake::Files(changed.flat_map(|event| event.event.paths).collect())
}

/// Whether a file was written to within the time after which it is read again.
fn was_just_saved(path: &Path) -> bool {
    let saved = std::fs::metadata(path).and_then(|of| of.modified());
    saved.is_ok_and(|at| at.elapsed().is_ok_and(|since| since < AGAIN))
}

/// What waits to be looked at.
enum Waiting {
    GoesOn(Vec<PathBuf>),
    Stops,
}

/// All that goes on.
struct Watching<'w> {
    watch: Watch<'w>,
    args: &'w WatchArgs,
    debouncer: Debouncer<RecommendedWatcher, RecommendedCache>,
    folders: BTreeSet<PathBuf>,
    server: Option<Server>,
}

impl Watching<'_> {
    fn run(&mut self, wakes: &Receiver<Wake>, out: &mut dyn Write) -> Result<Exit, Failure> {
        let begun = Instant::now();
        // Folders are watched before they are read: what changes meanwhile is looked at again.
        self.follow_folders()?;
        let first = self.watch.look(&[]);
        self.tell(first, &Told::first(begun), out)?;
        writeln!(out, "watching {}; Ctrl-C ends it", self.watched())?;
        if let Some(server) = &self.server {
            writeln!(out, "the page is at http://{}/", server.address())?;
        }
        out.flush()?;
        loop {
            self.follow_folders()?;
            let mut changed = match wakes.recv() {
                Ok(Wake::Stop) | Err(_) => return Ok(Exit::Done),
                Ok(wake) => self.concerned(wake),
            };
            // Several files may have been saved at once.
            let Waiting::GoesOn(more) = self.waiting(wakes) else { return Ok(Exit::Done) };
            changed.extend(more);
            if changed.is_empty() {
                continue;
            }
            let mut looked = self.watch.look(&changed);
            for _ in 0..TRIES {
                if !matches!(looked, Err(Failure::Input(_))) {
                    break;
                }
                std::thread::sleep(AGAIN);
                let Waiting::GoesOn(more) = self.waiting(wakes) else { return Ok(Exit::Done) };
                changed.extend(more);
                // What is still being saved is reported when that is over.
                let is_over = !changed.iter().any(|path| was_just_saved(path));
                looked = self.watch.look(&[]);
                if is_over {
                    break;
                }
            }
            self.tell(looked, &Told::of(&changed, SystemTime::now()), out)?;
            out.flush()?;
        }
    }

    /// The files of a wake that are to be looked at; all are where the system lost count.
    fn concerned(&self, wake: Wake) -> Vec<PathBuf> {
        match wake {
            Wake::Files(files) => self.watch.concerned(&files),
            Wake::Unknown => vec![PathBuf::from("something")],
            Wake::Stop => Vec::new(),
        }
    }

    /// What changed besides by now.
    fn waiting(&self, wakes: &Receiver<Wake>) -> Waiting {
        let mut changed = Vec::new();
        while let Ok(wake) = wakes.try_recv() {
            if matches!(wake, Wake::Stop) {
                return Waiting::Stops;
            }
            changed.extend(self.concerned(wake));
        }
        Waiting::GoesOn(changed)
    }

    /// What is watched, in words.
    fn watched(&self) -> String {
        let files = self.watch.project().map_or(0, |project| project.files_read().len());
        let takes = self.args.takes.len();
        let takes = if takes == 0 { String::new() } else { format!(" and {}", finitor_files::counted(takes, "take")) };
        format!("{}{takes}", finitor_files::counted(files, "file"))
    }

    /// Watches the folders that matter now.
    fn follow_folders(&mut self) -> Result<(), Failure> {
        let wanted = self.watch.folders();
        for folder in wanted.difference(&self.folders) {
            self.debouncer.watch(folder, RecursiveMode::NonRecursive).map_err(|error| cannot_watch(&error))?;
        }
        for folder in self.folders.difference(&wanted) {
            // It may be gone.
            drop(self.debouncer.unwatch(folder));
        }
        self.folders = wanted;
        Ok(())
    }

    /// Says what changed and writes what is to be written; a mistake in the files is said, and the last good state stays.
    fn tell(&mut self, looked: Result<WatchNews, Failure>, told: &Told, out: &mut dyn Write) -> Result<(), Failure> {
        let news = match looked {
            Ok(news) => news,
            Err(failure @ (Failure::Input(_) | Failure::Usage(_))) => {
                report(&failure);
                let words = "what was there before stays until the files are right again";
                writeln!(out, "{words}")?;
                if let Some(server) = &self.server {
                    server.trouble(&format!("A file is wrong: {words}."));
                }
                return Ok(());
            }
            Err(failure) => return Err(failure),
        };
        let mut written = Vec::new();
        if let (Some(path), Some(page)) = (&self.args.page, &news.page) {
            write_atomically(path, page.html.as_bytes())?;
            written.push(path.display().to_string());
        }
        written.extend(self.draw(&news)?);
        if let (Some(server), Some(page)) = (&self.server, news.page.clone()) {
            server.show(page);
        }
        words::write(&news, told, &written, out)?;
        Ok(())
    }

    /// Draws the actors whose shapes changed; the names of the files.
    fn draw(&self, news: &WatchNews) -> Result<Vec<String>, Failure> {
        let (Some(project), Some(cast), true) = (self.watch.project(), self.watch.cast(), self.args.draw) else {
            return Ok(Vec::new());
        };
        let mut written = Vec::new();
        for (actor, member) in
            cast.actors.iter().zip(&cast.members).filter(|(actor, _)| news.actors.contains(&actor.name))
        {
            let Some(member) = member else { continue };
            let pages = actor_sheet(&member.file, actor, PictureWishes::default())?;
            let several = pages.len() > 1;
            for (index, scene) in pages.into_iter().enumerate() {
                let name = if several { format!("{}-{}", actor.name, index + 1) } else { actor.name.clone() };
                let drawing = Drawing { stem: project.project.root.join("pictures").join(name), scene };
                drawing.write()?;
                written.push(project.shown(&drawing.png_path()));
            }
        }
        Ok(written)
    }
}
