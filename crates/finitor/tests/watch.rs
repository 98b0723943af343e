//! `finitor watch`, driven by saves as editors make them.
#![cfg(unix)]
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use std::io::Write;
use std::time::Duration;
use support::Project;
use support::watching::Watching;

/// The line with which a report of takes ends.
fn summary(project: &Project, take: &str) -> String {
    let run = project.run(&["check", take, "--summary"]);
    let line = run.out.lines().find(|line| line.contains(" ticks, "));
    line.unwrap_or_else(|| panic!("{}{}", run.out, run.err)).to_string()
}

/// The last line about the takes.
fn told(said: &[String]) -> &str {
    said.iter().rev().find(|line| line.contains(" ticks, ")).map_or("", |line| line.trim())
}

#[test]
fn a_save_is_fitted_checked_and_told() {
    let project = Project::fitted();
    let watching = Watching::start(&project, &["takes/faults.csv", "--page", "page.html", "--draw"]);
    assert_eq!(told(&watching.said()), summary(&project, "takes/faults.csv"));
    // A zone that is thicker mends what passed through it.
    let said = watching
        .after(|| project.edit("stages/pier.toml", "box = [560, 110, 4, 60]", "box = [560, 110, 16, 60]"))
        .join("\n");
    assert!(said.starts_with("pier.toml was saved; ") && said.contains("gone   error zone_skipped"), "{said}");
    assert_eq!(told(&watching.said()), summary(&project, "takes/faults.csv"));
    // Another recipe: shapes are fitted, their IoU is there before and now, and the pictures are drawn again.
    let before = std::fs::read(project.path("actors/keeper.fits.json")).unwrap();
    let said = watching.after(|| project.edit("actors/keeper.toml", "kind = \"capsule\"", "kind = \"box\"")).join("\n");
    let fitted = said.lines().find(|line| line.contains("fitted keeper.body on ")).unwrap_or_else(|| panic!("{said}"));
    let ious: Vec<f64> = fitted.rsplit("IoU ").next().unwrap().split(" -> ").map(|iou| iou.parse().unwrap()).collect();
    assert!(ious.len() == 2 && ious[0] != ious[1], "{fitted}");
    assert_ne!(std::fs::read(project.path("actors/keeper.fits.json")).unwrap(), before);
    assert!(project.path("pictures/keeper.png").exists() && said.contains("pictures/keeper.png written"), "{said}");
    assert_eq!(told(&watching.said()), summary(&project, "takes/faults.csv"));
    // What it writes itself wakes nobody, and neither does what does not concern it.
    let count = watching.said().len();
    project.write("notes.txt", "x");
    project.write("takes/other.csv", "x");
    project.write("actors/.keeper.toml.swp", "x");
    project.write("actors/keeper.toml~", "x");
    std::thread::sleep(Duration::from_millis(600));
    assert_eq!(watching.said().len(), count, "{:?}", watching.said());
    // The page is that of `report`.
    let page = project.read("page.html");
    project.ok(&["report", "takes/faults.csv", "-o", "own.html"]);
    assert!(page == project.read("own.html"), "the pages differ");
    assert_eq!(watching.interrupt(), Some(0));
}

#[test]
fn a_broken_file_is_told_and_the_last_good_state_stays() {
    let project = Project::fitted();
    let watching = Watching::start(&project, &["takes/faults.csv"]);
    let good = project.read("actors/keeper.toml");
    let said = watching.after(|| project.write("actors/keeper.toml", format!("{good}\nx = [\n")));
    assert!(said.iter().all(|line| !line.contains("ticks")), "{said:?}");
    watching.until("the file is complained of", |_| watching.complained().contains("not valid TOML"));
    let complained = watching.complained();
    assert!(complained.contains("actors/keeper.toml:") && complained.contains("not valid TOML"), "{complained}");
    // Half a file, then the whole: one that writes slowly.
    let changed = good.replace("bottom = 46", "bottom = 44");
    assert_ne!(changed, good);
    let mut file = std::fs::File::create(project.path("actors/keeper.toml")).unwrap();
    let (one, other) = changed.split_at(changed.len() / 2);
    file.write_all(one.as_bytes()).unwrap();
    file.sync_all().unwrap();
    std::thread::sleep(Duration::from_millis(60));
    file.write_all(other.as_bytes()).unwrap();
    drop(file);
    let wanted = || summary(&project, "takes/faults.csv");
    watching.until("the new state is reported", |said| said.iter().any(|line| line.contains("fitted keeper.body")));
    watching.until("the takes are reported", |said| told(said) == wanted());
    // Editors that write beside and rename; that move the old file away first; and a file that is gone for a while.
    project.write("actors/keeper.toml.new", &good);
    let said = watching
        .after(|| std::fs::rename(project.path("actors/keeper.toml.new"), project.path("actors/keeper.toml")).unwrap());
    assert!(said.iter().any(|line| line.contains("fitted keeper.body")), "{said:?}");
    std::fs::rename(project.path("actors/keeper.toml"), project.path("actors/keeper.toml~")).unwrap();
    std::thread::sleep(Duration::from_millis(10));
    let said = watching.after(|| project.write("actors/keeper.toml", &changed));
    assert!(said.iter().any(|line| line.contains("fitted keeper.body")), "{said:?}");
    assert_eq!(told(&watching.said()), wanted());
    // A take that goes missing, and comes back.
    let take = project.read("takes/faults.csv");
    let before = watching.complained().len();
    watching.until("it is quiet", |_| true);
    std::fs::remove_file(project.path("takes/faults.csv")).unwrap();
    watching.until("the take is missed", |_| watching.complained().len() > before);
    let said = watching.after(|| project.write("takes/faults.csv", &take));
    assert_eq!(told(&said), wanted());
    assert_eq!(watching.interrupt(), Some(0));
}

#[test]
fn a_project_that_is_wrong_at_first_is_waited_for() {
    let project = Project::sample();
    let good = project.read("finitor.toml");
    project.write("finitor.toml", "nonsense = [");
    let watching = Watching::start(&project, &["takes/faults.csv"]);
    // Errors come by a pipe of their own.
    watching.until("the project is complained of", |_| watching.complained().contains("finitor.toml"));
    let said = watching.after(|| project.write("finitor.toml", good));
    assert_eq!(told(&said), summary(&project, "takes/faults.csv"));
    // Fits are made where there were none, and a new actor is found.
    assert!(project.path("actors/gull.fits.json").exists());
    let twin = project.read("actors/barrel.toml").replace("name = \"barrel\"", "name = \"cask\"");
    watching.after(|| project.write("actors/cask.toml", twin));
    watching.until("the new actor is fitted", |_| project.path("actors/cask.fits.json").exists());
}

#[test]
fn a_growing_take_is_checked_as_far_as_it_goes() {
    let project = Project::fitted();
    let take = project.read("takes/faults.csv");
    let lines: Vec<&str> = take.lines().collect();
    let watching = Watching::start(&project, &["takes/live.csv", "--follow"]);
    let mut file = std::fs::File::create(project.path("takes/live.csv")).unwrap();
    for (index, part) in lines.chunks(lines.len() / 6).enumerate() {
        // The last row is cut off.
        let text = part.iter().map(|line| format!("{line}\n")).collect::<String>();
        let (whole, rest) = text.split_at(text.len() - 9);
        file.write_all(whole.as_bytes()).unwrap();
        std::thread::sleep(Duration::from_millis(if index == 2 { 300 } else { 20 }));
        file.write_all(rest.as_bytes()).unwrap();
    }
    drop(file);
    let wanted = summary(&project, "takes/live.csv");
    watching.until("the whole take is reported", |said| told(said) == wanted);
    assert_eq!(watching.complained(), "");
}

#[test]
fn a_thousand_saves_leave_no_stale_result_and_no_growth() {
    let project = Project::fitted();
    let good = project.read("stages/pier.toml");
    let watching = Watching::start(&project, &["takes/faults.csv", "--page", "page.html"]);
    let mut memory = Vec::new();
    for save in 1..=1000_u32 {
        let text = good.replace("box = [560, 110, 4, 60]", &format!("box = [560, 110, {}, 60]", 4 + save % 13));
        // In place, or beside and renamed.
        if save % 2 == 0 {
            project.write("stages/pier.toml", text);
        } else {
            project.write("stages/new", text);
            std::fs::rename(project.path("stages/new"), project.path("stages/pier.toml")).unwrap();
        }
        std::thread::sleep(Duration::from_millis(u64::from(save % 7)));
        if save % 100 == 0 {
            // What it says in the end is what a check from nothing says.
            let wanted = summary(&project, "takes/faults.csv");
            watching.until("the last save is reported", |said| told(said) == wanted);
            project.ok(&["report", "takes/faults.csv", "-o", "own.html"]);
            watching
                .until("the page is that of the last save", |_| project.read("page.html") == project.read("own.html"));
            memory.extend(watching.memory());
        }
    }
    assert_eq!(watching.complained(), "");
    if let [_, second, .., last] = memory.as_slice() {
        assert!(last * 2 < second * 3, "memory grows: {memory:?} kB");
    }
    assert_eq!(watching.interrupt(), Some(0));
}

#[test]
fn only_this_machine_is_served() {
    let project = Project::fitted();
    let far = project.run(&["watch", "takes/faults.csv", "--serve", "0.0.0.0:0"]);
    assert!(far.code == 2 && far.err.contains("loopback"), "{}", far.err);
    let watching = Watching::start(&project, &["takes/faults.csv", "--serve", "0"]);
    let address = watching.address();
    let host = address.trim_start_matches("http://").trim_end_matches('/').to_string();
    let ask = |method: &str, path: &str, host_named: &str| {
        use std::io::Read;
        let mut stream = std::net::TcpStream::connect(&host).unwrap();
        write!(stream, "{method} {path} HTTP/1.1\r\nHost: {host_named}\r\nConnection: close\r\n\r\n").unwrap();
        let mut answer = String::new();
        stream.read_to_string(&mut answer).unwrap();
        answer
    };
    let status = |answer: &str| answer.split_whitespace().nth(1).unwrap().to_string();
    let page = ask("GET", "/", &host);
    assert!(status(&page) == "200" && page.contains("faults.csv on pier") && page.contains("nosniff"));
    assert!(ask("GET", "/", &host.replace("127.0.0.1", "localhost")).contains("200 OK"));
    for (answer, wanted) in [
        (ask("GET", "/", "evil.example"), "403"),
        (ask("GET", "/events", "evil.example"), "403"),
        (ask("GET", "/finitor.toml", &host), "404"),
        (ask("GET", "/../finitor.toml", &host), "404"),
        (ask("POST", "/", &host), "405"),
        (ask("DELETE", "/", &host), "405"),
    ] {
        assert_eq!(status(&answer), wanted, "{answer}");
    }
    assert_eq!(ask("HEAD", "/", &host).split("\r\n\r\n").nth(1), Some(""));
    // More connections than a browser holds are closed; when they are gone it answers again.
    let many: Vec<_> = (0..64).map(|_| std::net::TcpStream::connect(&host).unwrap()).collect();
    drop(many);
    std::thread::sleep(Duration::from_millis(100));
    assert_eq!(status(&ask("GET", "/", &host)), "200");
    // The address is taken now.
    let second = project.run(&["watch", "takes/faults.csv", "--serve", &host]);
    assert!(second.code == 2 && second.err.contains("another port"), "{}", second.err);
    assert_eq!(watching.interrupt(), Some(0));
}
