//! The page of `finitor report`.

use super::driver::{Browser, PageSize, USUAL};
use super::support::Project;
use serde_json::{Value, json};

/// The sample, fitted, with a page of takes.
fn page(takes: &[&str]) -> Project {
    let project = Project::fitted();
    let args = [&["report"], takes, &["-o", "page.html"]].concat();
    project.ok(&args);
    project
}

fn tick(browser: &Browser) -> i64 {
    browser.run("return Number(document.getElementById('tick').value)").as_i64().unwrap()
}

/// The findings of a check that follow from no other one.
fn roots(check: &Value) -> Vec<Value> {
    let findings = check["findings"].as_array().unwrap();
    let is_root = |finding: &&Value| {
        let after = &finding["after"];
        let is_it = |of: &Value| {
            of["rule"] == after["rule"]
                && of["subject"] == after["subject"]
                && of["with"] == after["with"]
                && of["ticks"][0] == after["first_tick"]
        };
        after.is_null() || !findings.iter().any(is_it)
    };
    findings.iter().filter(is_root).cloned().collect()
}

fn shown(figure: f64, unit: &str) -> String {
    match unit {
        "px" => format!("{figure:.2} px"),
        "px2" => format!("{figure:.0} px²"),
        "degrees" => format!("{figure:.1}°"),
        _ => format!("{figure:.0} {unit}"),
    }
}

#[test]
fn the_page_says_what_check_says() {
    let project = page(&["takes/faults.csv"]);
    let check = project.run(&["check", "takes/faults.csv", "--format", "json"]).take();
    let browser = Browser::start(USUAL);
    browser.open_file(&project.path("page.html"), "");
    browser.until("document.querySelectorAll('#list button').length > 0");
    let roots = roots(&check);
    let count = |severity: &str| roots.iter().filter(|finding| finding["severity"] == severity).count();
    let counts = browser.text("#counts");
    for words in [
        format!("{} errors", count("error")),
        format!("{} warnings", count("warn")),
        format!("{} ticks", check["ticks"]),
    ] {
        assert!(counts.contains(&words), "{counts}: {words}");
    }
    // Every finding in the list, with rule, figure, who and when; chosen, with message, cause and fix.
    let rows = browser.run("return [...document.querySelectorAll('#list button')].map((row) => row.innerText)");
    assert_eq!(rows.as_array().unwrap().len(), roots.len());
    for (index, finding) in roots.iter().enumerate() {
        let row = rows[index].as_str().unwrap();
        let figure = shown(finding["figure"].as_f64().unwrap(), finding["unit"].as_str().unwrap());
        let who = format!("{}.{}", finding["subject"].as_str().unwrap(), finding["shape"].as_str().unwrap());
        for words in [finding["rule"].as_str().unwrap(), &figure, &who, &finding["ticks"][0].to_string()] {
            assert!(row.contains(words), "{row}: {words}");
        }
        browser.run(&format!("document.querySelectorAll('#list button')[{index}].click()"));
        assert_eq!(tick(&browser), finding["worst"]["tick"].as_i64().unwrap());
        let chosen = browser.text("#chosen");
        for words in ["message", "fix", "cause"].map(|key| finding[key].as_str().unwrap()) {
            assert!(chosen.contains(words), "{chosen}: {words}");
        }
    }
    // Hits and zone events.
    browser.click("#tab-events");
    let events = browser.text("#events");
    for hit in check["hits"].as_array().unwrap() {
        assert!(events.contains(&hit["tick"].to_string()) && events.contains(hit["by"].as_str().unwrap()), "{events}");
    }
    let told = check["events"].as_array().unwrap().len();
    assert!(events.contains(&format!("{told} events")), "{events}");
    // Places are those of the take, to its last digit.
    let take = project.read("takes/faults.csv");
    let rows: Vec<Vec<&str>> = take.lines().skip(1).map(|line| line.split(',').collect()).collect();
    let seen = browser.run(
        "const take = window.finitor.view.take; const rows = []; for (let i = 0; i < take.length; i += 1) \
         for (const seen of take.seenAt(i)) rows.push([take.ticks[i], seen.label, seen.x, seen.y]); return rows",
    );
    assert_eq!(seen.as_array().unwrap().len(), rows.len());
    let mut wanted: Vec<Value> = Vec::new();
    for row in rows {
        let number = |text: &str| text.parse::<f64>().unwrap();
        wanted.push(json!([number(row[0]), row[1], number(row[2]), number(row[3])]));
    }
    for at in seen.as_array().unwrap() {
        let is_it = |row: &Value| row[0].as_f64() == at[0].as_f64() && row[1] == at[1];
        let row = wanted.iter().find(|row| is_it(row)).unwrap();
        for axis in [2, 3] {
            assert!((row[axis].as_f64().unwrap() - at[axis].as_f64().unwrap()).abs() < 1e-9, "{row} {at}");
        }
    }
    assert_eq!(browser.complaints(), Vec::<String>::new());
}

#[test]
fn every_control_does_what_it_says() {
    let project = page(&["takes/faults.csv"]);
    let browser = Browser::start(USUAL);
    browser.open_file(&project.path("page.html"), "");
    browser.until("document.querySelectorAll('#list button').length > 0");
    // Steps by button and by key; ticks that the take lacks are passed over.
    browser.click("#ahead");
    browser.press("\u{e014}\u{e014}");
    assert_eq!(tick(&browser), 3);
    browser.click("#back");
    browser.press("\u{e012}");
    assert_eq!(tick(&browser), 1);
    browser.press("\u{e010}");
    let last = browser.run("return window.finitor.view.take.ticks.at(-1)").as_i64().unwrap();
    assert_eq!(tick(&browser), last);
    browser.press("\u{e011}");
    assert_eq!(tick(&browser), 0);
    browser.choose("#tick", "126");
    assert_eq!(tick(&browser), 126);
    // Playing goes on by itself, and stops.
    // On a button the key is the button's own.
    browser.run("document.activeElement.blur()");
    browser.press(" ");
    browser.until("window.finitor.view.index > 20 && document.getElementById('play').innerText === 'Pause'");
    browser.press(" ");
    assert_eq!(browser.text("#play"), "Play");
    // Next and previous finding, in time, and a loop over one.
    browser.press("\u{e011}nn");
    let second = browser.run("return window.finitor.view.finding.number").as_i64().unwrap();
    browser.press("np");
    assert_eq!(browser.run("return window.finitor.view.finding.number").as_i64().unwrap(), second);
    browser.press("l");
    browser.until("window.finitor.view.isPlaying");
    let range = browser.run("const f = window.finitor.view.finding; return [f.ticks[0] - 60, f.ticks[1] + 60]");
    std::thread::sleep(std::time::Duration::from_millis(600));
    let now = tick(&browser);
    assert!(range[0].as_i64().unwrap() <= now && now <= range[1].as_i64().unwrap(), "{now} {range}");
    browser.press("l ");
    // Filters: by severity, rule, actor and words.
    let rows = || browser.run("return [...document.querySelectorAll('#list button')].map((row) => row.innerText)");
    let whole = rows().as_array().unwrap().len();
    browser.click("#filter-error");
    assert!(rows().as_array().unwrap().iter().all(|row| !row.as_str().unwrap().contains("error")));
    browser.click("#filter-error");
    browser.choose("#filter-rule", "embedded");
    assert!(rows().as_array().unwrap().iter().all(|row| row.as_str().unwrap().contains("embedded")));
    browser.choose("#filter-rule", "");
    browser.choose("#filter-actor", "gull");
    assert!(rows().as_array().unwrap().iter().all(|row| row.as_str().unwrap().contains("gull")));
    browser.choose("#filter-actor", "");
    browser.press("/");
    browser.press("boathouse");
    let found = rows();
    assert!(!found.as_array().unwrap().is_empty() && found.as_array().unwrap().len() < whole, "{found}");
    browser.choose("#search", "");
    assert_eq!(rows().as_array().unwrap().len(), whole);
    browser.run("document.getElementById('search').blur()");
    // Switches change what is drawn.
    let painted = || {
        browser.wait_for("requestAnimationFrame(() => requestAnimationFrame(() => done(document.getElementById('over').toDataURL().length + document.getElementById('under').toDataURL())))")
    };
    browser.choose("#tick", "126");
    browser.run("document.activeElement.blur()");
    browser.press("0");
    let before = painted();
    browser.run("document.getElementById('switches').open = true");
    for what in ["body", "art", "zones", "names", "layer hero"] {
        let with = painted();
        browser.run(&format!("document.querySelector('[data-what=\"{what}\"]').click()"));
        assert!(painted() != with, "{what} changes nothing");
        browser.run(&format!("document.querySelector('[data-what=\"{what}\"]').click()"));
    }
    assert!(painted() == before, "switches go back to what was");
    browser.run("document.getElementById('switches').open = false");
    // Onion skin and following.
    browser.press("o");
    assert!(painted() != before, "the onion skin shows");
    browser.choose("#onion", "0");
    browser.choose("#follow", "keeper");
    browser.press("\u{e014}");
    let at = browser.run("const { view, camera } = window.finitor; const seen = view.take.tracks.find((t) => t.label === 'keeper').at(view.index); return [camera.x - seen.x, camera.y - seen.y]");
    assert_eq!(at, json!([0, 0]));
    // The measure tool: two clicks, told in px.
    browser.press("0m");
    let spot = |x: f64, y: f64| {
        let at = browser.run(&format!(
            "const {{ camera }} = window.finitor; const b = document.getElementById('over').getBoundingClientRect(); \
             return [b.x + camera.width / 2 + ({x} - camera.x) * camera.zoom, b.y + camera.height / 2 + ({y} - camera.y) * camera.zoom]"
        ));
        browser.click_at(at[0].as_f64().unwrap(), at[1].as_f64().unwrap());
    };
    spot(100.0, 100.0);
    spot(130.0, 140.0);
    let measured = browser.run("return window.finitor.view.measured");
    let by = |axis: usize| measured[1][axis].as_f64().unwrap() - measured[0][axis].as_f64().unwrap();
    assert!((by(0) - 30.0).abs() < 2.0 && (by(1) - 40.0).abs() < 2.0, "{measured}");
    let words = format!("{:.2} px (x {:.2}, y {:.2})", by(0).hypot(by(1)), by(0), by(1));
    assert_eq!(browser.text("#note"), words);
    browser.press("m");
    // A click on a shape and then on a thing: why they affect each other, as `layers explain` has it.
    browser.choose("#tick", "126");
    browser.run("document.activeElement.blur()");
    browser.press("0");
    let keeper = browser.run(
        "const { view } = window.finitor; const k = view.take.seenAt(view.index).find((s) => s.label === 'keeper'); return [k.x, k.y]",
    );
    spot(keeper[0].as_f64().unwrap(), keeper[1].as_f64().unwrap() - 6.0);
    spot(100.0, 230.0);
    let pair = browser.run("return window.finitor.view.pair.map((of) => of.name)");
    assert!(pair[0].as_str().unwrap().starts_with("keeper.") && pair[1] == "pier/quay", "{pair}");
    let told = project.run(&["layers", "explain", pair[0].as_str().unwrap(), "pier/quay", "--format", "json"]).json();
    assert!(browser.text("#note").contains(told["effect"][0].as_str().unwrap()), "{}", browser.text("#note"));
    browser.click("#tab-layers");
    for (first, second) in [
        ("keeper.body", "pier/quay"),
        ("keeper.body", "gull.body"),
        ("keeper.pole", "gull.feathers"),
        ("pier/tide", "keeper.body"),
    ] {
        browser.choose("#pair-0", first);
        browser.choose("#pair-1", second);
        let why = browser.text("#why");
        let told = project.run(&["layers", "explain", first, second, "--format", "json"]).json();
        for sentence in told["effect"].as_array().unwrap() {
            assert!(why.contains(sentence.as_str().unwrap()), "{why}: {sentence}");
        }
        for side in ["first", "second"] {
            assert!(why.contains(told[side]["says"].as_str().unwrap()), "{why}: {}", told[side]["says"]);
        }
    }
    // Themes.
    let colour = || browser.run("return getComputedStyle(document.body).backgroundColor");
    browser.choose("#theme", "dark");
    let dark = colour();
    browser.choose("#theme", "light");
    assert_ne!(colour(), dark);
    // Keys in words.
    browser.press("?");
    assert!(browser.text("#help").contains("next finding"));
    browser.press("\u{e00c}");
    assert_eq!(browser.run("return document.getElementById('help').open"), false);
    assert_eq!(browser.complaints(), Vec::<String>::new());
}

#[test]
fn fingers_move_and_enlarge_the_stage() {
    let project = page(&["takes/faults.csv"]);
    let browser = Browser::start(USUAL);
    browser.open_file(&project.path("page.html"), "");
    browser.until("document.querySelectorAll('#list button').length > 0");
    let camera = || {
        let at = browser.run("const { x, y, zoom } = window.finitor.camera; return [x, y, zoom]");
        [0, 1, 2].map(|index: usize| at[index].as_f64().unwrap())
    };
    let [x, y, zoom] = camera();
    browser.fingers(&[[400.0, 300.0, 300.0, 340.0]]);
    let [moved_x, moved_y, _] = camera();
    assert!((moved_x - x - 100.0 / zoom).abs() < 2.0 && (moved_y - y + 40.0 / zoom).abs() < 2.0, "{moved_x} {moved_y}");
    browser.fingers(&[[350.0, 300.0, 250.0, 300.0], [450.0, 300.0, 550.0, 300.0]]);
    let [_, _, wider] = camera();
    assert!((wider / zoom - 3.0).abs() < 0.3, "{zoom} {wider}");
    // A tap is a click.
    browser.press("0m");
    browser.fingers(&[[300.0, 300.0, 300.0, 300.0]]);
    assert_eq!(browser.run("return window.finitor.view.measured.length"), 1);
    // A finger on the bar of time goes there.
    let bar =
        browser.run("const b = document.getElementById('timebar').getBoundingClientRect(); return [b.x, b.y, b.width]");
    let [left, top, width] = [0, 1, 2].map(|index: usize| bar[index].as_f64().unwrap());
    browser.fingers(&[[left + 140.0, top + 60.0, left + width - 12.0, top + 60.0]]);
    assert!(tick(&browser) > 900, "{}", tick(&browser));
    assert_eq!(browser.complaints(), Vec::<String>::new());
    // The tiles of the stage are drawn as they are: with other switches they are not. Chromium notes that pixels are read.
    let tiles = "const c = document.getElementById('under').getContext('2d'); const { camera } = window.finitor; \
                 const at = (v, mid, size) => Math.round(size / 2 + (v - mid) * camera.zoom); \
                 done([...c.getImageData(at(530, camera.x, camera.width), at(270, camera.y, camera.height), 1, 1).data])";
    let after_frame = format!("requestAnimationFrame(() => requestAnimationFrame(() => {{ {tiles} }}))");
    let with = browser.wait_for(&after_frame);
    browser.run("document.querySelector('[data-what=\"art\"]').click()");
    assert_ne!(browser.wait_for(&after_frame), with);
}

#[test]
fn a_link_leads_to_a_moment_and_text_on_the_page_can_be_read() {
    let project = page(&["takes/clean.csv", "takes/faults.csv"]);
    let check = project.run(&["check", "takes/faults.csv", "--format", "json"]).take();
    let browser = Browser::start(USUAL);
    browser.open_file(&project.path("page.html"), "#take=2&tick=126&finding=4");
    browser.until("window.finitor.view.take.number === 2");
    assert_eq!(tick(&browser), 126);
    let wanted = &check["findings"][3];
    assert!(browser.text("#chosen").contains(wanted["message"].as_str().unwrap()));
    browser.until("document.getElementById('live').textContent.startsWith('Tick 126,')");
    browser.press("\u{e014}");
    browser.until("location.hash === '#take=2&tick=127&finding=4'");
    // Nonsense in the address opens the first take.
    browser.open_file(&project.path("page.html"), "#take=77&tick=-3&finding=x");
    browser.until("document.getElementById('play') !== null");
    assert_eq!(browser.run("return window.finitor.view.take.number"), 2);
    // The table of takes, and one opened from it.
    browser.open_file(&project.path("page.html"), "");
    let takes = browser.text("#takes");
    let summary =
        project.run(&["check", "takes/clean.csv", "takes/faults.csv", "--summary", "--format", "json"]).json();
    for rule in summary["rules"].as_array().unwrap() {
        assert!(takes.contains(rule["rule"].as_str().unwrap()), "{takes}");
    }
    browser.run("[...document.querySelectorAll('#takes button')].find((b) => b.innerText === 'faults.csv').click()");
    assert_eq!(browser.run("return window.finitor.view.take.name"), "faults.csv");
    // Every control has a name; text stands out from what is behind it by 4.5 to 1, in both themes.
    let unnamed = browser.run(
        "return [...document.querySelectorAll('button, select, input, [role=slider], canvas[role]')].filter((e) => \
         !(e.getAttribute('aria-label') || e.labels?.[0]?.textContent.trim() || e.textContent.trim() || e.title)).map((e) => e.outerHTML)",
    );
    assert_eq!(unnamed, json!([]));
    for theme in ["dark", "light"] {
        browser.choose("#theme", theme);
        for tab in ["takes", "findings", "events", "layers", "fits", "moves", "room"] {
            browser.run(&format!("document.getElementById('tab-{tab}').click()"));
            let faint = browser.run(CONTRAST);
            assert_eq!(faint, json!([]), "{theme} {tab}");
        }
    }
    // No wider than the window where that is narrow.
    browser.resize(PageSize { width: 800, height: 1000 });
    assert_eq!(browser.run("return document.documentElement.scrollWidth <= innerWidth"), true);
    assert_eq!(browser.complaints(), Vec::<String>::new());
}

/// Texts whose contrast to what is behind them is less than 4.5 to 1, by WCAG 2.2.
const CONTRAST: &str = r"
const parse = (text) => text.match(/[\d.]+/g).map(Number);
const light = ([r, g, b]) => { const f = (c) => { c /= 255; return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4; }; return 0.2126 * f(r) + 0.7152 * f(g) + 0.0722 * f(b); };
const behind = (e) => { for (let at = e; at; at = at.parentElement) { const c = parse(getComputedStyle(at).backgroundColor); if (c.length === 3 || c[3] > 0) return c; } return [255, 255, 255]; };
const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
const faint = new Set();
while (walker.nextNode()) {
  const e = walker.currentNode.parentElement;
  if (!walker.currentNode.textContent.trim() || !e.checkVisibility() || e.closest('script, style, canvas, option')) continue;
  const [a, b] = [light(parse(getComputedStyle(e).color)), light(behind(e))].sort((x, y) => y - x);
  if ((a + 0.05) / (b + 0.05) < 4.5) faint.add(`${e.tagName} ${e.className} ${e.id}: ${e.textContent.slice(0, 40)}`);
}
return [...faint];
";

#[test]
fn names_stay_text_wherever_users_write_them() {
    const MARKUP: &str = "<img src=x onerror=alert(1)>";
    // Names hold no blanks; this needs none.
    const NAME: &str = "<svg><script>alert(1)";
    let project = Project::sample();
    project.edit("finitor.toml", "name = \"pier\"", &format!("name = '{MARKUP}'"));
    for file in ["actors/keeper.toml", "actors/gull.toml", "actors/barrel.toml", "stages/pier.toml", "finitor.toml"] {
        let text = project.read(file);
        let text = text.replace("\"gull\"", &format!("'{NAME}'")).replace("\"feathers\"", &format!("'{NAME}'"));
        let text = text.replace("name = \"tide\"", &format!("name = '{NAME}tide'"));
        project.write(file, text.replace("[shape.pole]", &format!("[shape.'{NAME}pole']")));
    }
    // The stage, an animation and a part; layers take letters alone.
    project.edit("stages/pier.toml", "name = \"pier\"", &format!("name = '{NAME}pier'"));
    let keeper = project.read("actors/keeper.toml");
    let keeper = keeper.replace("[animation.swing]", &format!("[animation.'{NAME}swing']"));
    let keeper = keeper
        .replace("[\"swing\"]", &format!("['{NAME}swing']"))
        .replace("\nswing = ", &format!("\n'{NAME}swing' = "));
    project.write("actors/keeper.toml", keeper.replace("part = \"head\"", &format!("part = '{NAME}head'")));
    let take = project.read("takes/faults.csv").replace(",gull,", &format!(",{NAME},"));
    let take = take.replace(",swing,", &format!(",{NAME}swing,"));
    // State words and the names of takes may hold anything.
    let take: String = take
        .lines()
        .enumerate()
        .map(|(index, line)| {
            let (own, states) = (if index == 0 { "take" } else { MARKUP }, line);
            format!("{own},{}\n", states.replace(",warped,", ",warped|<b>bold,"))
        })
        .collect();
    let file = format!("takes/{MARKUP}.csv");
    project.write("takes/second.csv", &take);
    project.write(&file, take);
    project.ok(&["fit"]);
    project.ok(&["report", &file, "takes/second.csv", "-o", "page.html"]);
    let browser = Browser::start(USUAL);
    browser.open_file(&project.path("page.html"), "#take=1&finding=1");
    browser.until("document.querySelectorAll('#list button').length > 0");
    for tab in ["takes", "findings", "events", "layers", "fits", "moves", "room"] {
        browser.run(&format!("document.getElementById('tab-{tab}').click()"));
    }
    browser.run("document.querySelectorAll('#list button').forEach((row) => row.click())");
    let made = browser.run("return [document.querySelectorAll('img, svg, b').length, document.querySelectorAll('script:not([type]):not(:last-of-type)').length]");
    assert_eq!(made, json!([0, 0]));
    assert!(browser.text("#counts").contains(MARKUP), "{}", browser.text("#counts"));
    for (tab, name) in [("events", NAME), ("fits", "swing"), ("moves", "swing"), ("room", "pier")] {
        browser.run(&format!("document.getElementById('tab-{tab}').click()"));
        browser.run("const select = document.getElementById('fits-actor'); select.value = '2'; select.dispatchEvent(new Event('change'))");
        let text = browser.text(&format!("#{tab}"));
        let name = if name == NAME { NAME.to_string() } else { format!("{NAME}{name}") };
        assert!(text.contains(&name), "{tab}: {text}");
    }
    assert_eq!(browser.complaints(), Vec::<String>::new());
}

#[test]
fn a_take_without_findings_and_one_without_ticks_open() {
    let project = Project::fitted();
    project.write("takes/none.csv", "tick,actor,x,y,facing,animation,frame\n");
    let first: String = project.read("takes/clean.csv").lines().take(2).map(|line| format!("{line}\n")).collect();
    project.write("takes/one.csv", first);
    project.ok(&["report", "takes/clean.csv", "takes/one.csv", "-o", "page.html"]);
    let browser = Browser::start(PageSize { width: 800, height: 600 });
    browser.open_file(&project.path("page.html"), "#take=1");
    assert_eq!(browser.text("#listed"), "Nothing was found in this take.");
    browser.open_file(&project.path("page.html"), "#take=2");
    browser.press("\u{e014} n");
    assert_eq!(tick(&browser), 0);
    let empty = project.run(&["report", "takes/none.csv", "-o", "none.html"]);
    if empty.code == 0 {
        browser.open_file(&project.path("none.html"), "");
        browser.press("\u{e014} n");
        assert_eq!(browser.text("#listed"), "Nothing was found in this take.");
    }
    assert_eq!(browser.complaints(), Vec::<String>::new());
}
