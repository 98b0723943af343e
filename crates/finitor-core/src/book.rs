//! The rule book: every rule, those of takes first, then those of the files before any take.
//!
//! A rule is in the book by its line in [`crate::check`]'s or [`crate::lint`]'s list.

use crate::rule::{Rule, Spec, Threshold};
use crate::{check, lint};

/// All rules in the book's order.
pub fn rules() -> impl Iterator<Item = Rule> + Clone {
    specs().map(Rule::of)
}

fn specs() -> impl Iterator<Item = &'static Spec> + Clone {
    check::SPECS.iter().chain(lint::SPECS).copied()
}

/// The rules that a take can break.
pub fn take_rules() -> impl Iterator<Item = Rule> + Clone {
    check::SPECS.iter().map(|spec| Rule::of(spec))
}

/// The rule with a code.
pub fn find(code: &str) -> Option<Rule> {
    rules().find(|rule| rule.code() == code)
}

/// Where a rule stands in the book.
pub fn position(rule: Rule) -> usize {
    rules().position(|known| known == rule).unwrap_or(usize::MAX)
}

/// The keys under `[check]`: those that all rules share, then those of single rules, each once.
pub fn thresholds() -> Vec<Threshold> {
    let mut all = check::SHARED.to_vec();
    for threshold in rules().flat_map(|rule| rule.thresholds()) {
        if all.iter().all(|known| known.key != threshold.key) {
            all.push(*threshold);
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn codes_are_unique_and_every_rule_has_all_of_its_text() {
        let mut codes: Vec<&str> = rules().map(Rule::code).collect();
        codes.sort_unstable();
        let count = codes.len();
        codes.dedup();
        assert_eq!(codes.len(), count, "a code is in the book twice");
        for rule in rules() {
            let text = rule.text();
            for part in [text.means, text.matters, text.measured, text.fix] {
                assert!(part.ends_with('.') && part.len() > 20, "{rule}: {part}");
                assert!(!part.contains("  "), "{rule}: two spaces in {part}");
            }
            assert!(text.drawing.ends_with('\n') && text.drawing.lines().all(|line| line.len() < 60), "{rule}");
            for threshold in rule.thresholds() {
                assert!((threshold.least..=threshold.most).contains(&threshold.default), "{rule}");
            }
        }
    }
}
