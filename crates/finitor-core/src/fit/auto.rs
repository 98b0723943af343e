//! The simplest kind that agrees well enough.

use super::quality::{RunRows, geometry_iou};
use super::{FitError, Fitting, Geometry, Kind, fit_shape};
use crate::art::Mask;

/// Kinds from the simplest on.
const ORDER: [Kind; 5] = [Kind::Box, Kind::Circle, Kind::Capsule, Kind::Hull, Kind::Outline];

/// A shape of the kind that was chosen for it.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Chosen {
    pub(super) geometry: Geometry,
    pub(super) kind: Kind,
    pub(super) why: String,
}

/// The first kind of [`ORDER`] whose fit reaches the IoU asked for; where none does, the one that comes nearest. Kinds that
/// the options rule out are passed over.
///
/// # Errors
/// Those of the last kind tried, when none can be fitted.
pub(super) fn fit(selection: &Mask, fitting: &Fitting) -> Result<Chosen, FitError> {
    let rows = RunRows::new(selection);
    let selected = selection.count() as f64;
    let mut tried: Vec<(Kind, f64, Geometry)> = Vec::new();
    let mut last = FitError::NothingSelected;
    for kind in ORDER {
        match fit_shape(selection, &Fitting { kind, ..fitting.clone() }) {
            Ok(geometry) => tried.push((kind, geometry_iou(&geometry, &rows, selected), geometry)),
            Err(error) => {
                last = error;
                continue;
            }
        }
        if tried.last().is_some_and(|(_, iou, _)| *iou >= fitting.min_iou) {
            break;
        }
    }
    let best = (0..tried.len()).max_by(|&a, &b| tried[a].1.total_cmp(&tried[b].1).then(b.cmp(&a))).ok_or(last)?;
    let reaches = tried[best].1 >= fitting.min_iou;
    let others = tried.iter().enumerate().filter(|(i, _)| *i != best);
    let others: Vec<String> = others.map(|(_, (kind, iou, _))| format!("{} {iou:.3}", kind.name())).collect();
    let (kind, iou, geometry) = tried.swap_remove(best);
    let verdict = if reaches { "is the simplest to reach" } else { "comes nearest to" };
    let rest = if others.is_empty() { String::new() } else { format!("; {}", others.join(", ")) };
    let why = format!("{} {verdict} an IoU of {}: {iou:.3}{rest}", kind.name(), fitting.min_iou);
    Ok(Chosen { geometry, kind, why })
}
