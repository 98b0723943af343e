//! State words of takes that no file knows.

use crate::sink::Warning;
use finitor_core::layers::Layers;
use finitor_core::take::{DROP, OFF_FOOT, Sample, WARPED};
use finitor_files::nearest;
use std::collections::BTreeMap;

/// Collects the state words of a take, with the first tick of each.
pub(crate) struct StateWords<'p> {
    known: Vec<&'p str>,
    unknown: BTreeMap<String, u64>,
}

impl<'p> StateWords<'p> {
    /// Those that mean something, and those that the project says it uses.
    pub(crate) fn new(layers: &'p Layers, said: &'p [String]) -> StateWords<'p> {
        let own = layers.states.iter().map(|state| state.name.as_str());
        let known = [DROP, WARPED].into_iter().chain(OFF_FOOT).chain(own).chain(said.iter().map(String::as_str));
        StateWords { known: known.collect(), unknown: BTreeMap::new() }
    }

    /// Takes in a tick.
    pub(crate) fn see(&mut self, tick: u64, samples: &[Sample]) {
        for word in samples.iter().flat_map(|sample| &sample.states) {
            if !self.known.contains(&word.as_str()) && !self.unknown.contains_key(word) {
                self.unknown.insert(word.clone(), tick);
            }
        }
    }

    /// A warning for each word that nothing knows, the earliest first.
    pub(crate) fn warnings(self, take: &str) -> Vec<Warning> {
        let mut words: Vec<(String, u64)> = self.unknown.into_iter().collect();
        words.sort_by_key(|(_, tick)| *tick);
        let warning = |(word, tick): (String, u64)| {
            let near = nearest(&word, &self.known).map(|near| format!("did you mean \"{near}\"? Else "));
            let hint = format!(
                "{}add it to `known` of [states] in finitor.toml, or check with --any-state",
                near.unwrap_or_default()
            );
            Warning {
                message: format!("{take} has the state \"{word}\" from tick {tick} on, and no file knows it"),
                hint: Some(hint),
            }
        };
        words.into_iter().map(warning).collect()
    }
}
