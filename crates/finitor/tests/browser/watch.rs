//! The page that `finitor watch --serve` renews.

use super::driver::{Browser, USUAL};
use super::support::Project;
use super::support::watching::Watching;

#[test]
fn the_page_renews_itself_and_keeps_its_place() {
    let project = Project::fitted();
    let watching = Watching::start(&project, &["takes/faults.csv", "--serve", "0"]);
    let browser = Browser::start(USUAL);
    browser.open(&watching.address());
    browser.until("document.querySelectorAll('#list button').length > 0");
    let findings = "window.finitor.view.take.findings.length";
    let before = browser.run(&format!("return {findings}")).as_i64().unwrap();
    // A place of one's own: tick, finding, tab, camera, a switch, a theme.
    browser.choose("#tick", "242");
    browser.choose("#theme", "dark");
    browser.choose("#onion", "2");
    browser.click("#tab-layers");
    browser.run("document.querySelector('[data-what=\"zones\"]').click()");
    browser.run("document.activeElement.blur()");
    browser.press("++");
    let place = "[Number(document.getElementById('tick').value), window.finitor.camera.zoom, window.finitor.camera.x, window.finitor.view.tab, \
                 [...window.finitor.view.hidden], window.finitor.view.onion, document.getElementById('theme').value]";
    let kept = browser.run(&format!("return {place}"));
    let thicker = || project.edit("stages/pier.toml", "box = [560, 110, 4, 60]", "box = [560, 110, 16, 60]");
    watching.after(thicker);
    browser.until(&format!("{findings} === {}", before - 1));
    assert_eq!(browser.run(&format!("return {place}")), kept);
    // A mistake is said on the page, which stays; mended, it says so no more.
    let good = project.read("stages/pier.toml");
    watching.after(|| project.write("stages/pier.toml", "[stage\n"));
    browser.until("document.getElementById('note').textContent.includes('wrong')");
    assert_eq!(browser.run(&format!("return {findings}")).as_i64().unwrap(), before - 1);
    watching.after(|| project.write("stages/pier.toml", &good));
    browser.until("document.getElementById('note').hidden");
    // Saved without a change the page stays as it is.
    browser.run("window.isSame = true");
    watching.after(|| project.write("stages/pier.toml", &good));
    std::thread::sleep(std::time::Duration::from_millis(200));
    assert_eq!(browser.run("return window.isSame"), true);
    assert_eq!(browser.complaints(), Vec::<String>::new());
    assert_eq!(watching.interrupt(), Some(0));
}
