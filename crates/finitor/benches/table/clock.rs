//! Times of work beside those of plain work.

use std::time::Instant;

/// What work takes at least, of some rounds, s.
pub(crate) fn least(rounds: usize, mut work: impl FnMut()) -> f64 {
    (0..rounds).map(|_| seconds(&mut work)).fold(f64::INFINITY, f64::min)
}

/// What one call takes, s.
fn seconds(mut work: impl FnMut()) -> f64 {
    let start = Instant::now();
    work();
    start.elapsed().as_secs_f64()
}

/// Work beside plain work.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Beside {
    /// The median over rounds of how many times as long as the plain work of that round it takes.
    pub(crate) times: f64,
    /// What it takes at least, s.
    pub(crate) least: f64,
}

impl Beside {
    /// Takes both turn by turn.
    pub(crate) fn plain(rounds: usize, mut plain: impl FnMut(), mut work: impl FnMut()) -> Beside {
        let (mut times, mut least) = (Vec::new(), f64::INFINITY);
        for _ in 0..rounds {
            let beside = seconds(&mut plain);
            let took = seconds(&mut work);
            times.push(took / beside);
            least = least.min(took);
        }
        times.sort_by(f64::total_cmp);
        Beside { times: times[times.len() / 2], least }
    }

    /// Prints a line of the table; `per` is how many things share the time.
    pub(crate) fn line(&self, what: &str, plain: &str, per: f64) {
        println!("| {what} | {plain} | {} | {} |", short(self.times), short(self.least / per * 1000.0));
    }
}

/// A number in some three digits.
fn short(number: f64) -> String {
    let digits = (2.0 - number.log10().floor()).clamp(0.0, 6.0) as usize;
    format!("{number:.digits$}")
}

/// How long work of a size takes.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Sized {
    pub(crate) size: f64,
    pub(crate) seconds: f64,
}

/// Prints the power of the size that the time grows with: the slope of a straight line through the logarithms.
pub(crate) fn growth(what: &str, sizes: &[Sized]) {
    let logs: Vec<_> = sizes.iter().map(|of| Sized { size: of.size.ln(), seconds: of.seconds.ln() }).collect();
    let mean = |value: fn(&Sized) -> f64| logs.iter().map(value).sum::<f64>() / logs.len() as f64;
    let (x, y) = (mean(|of| of.size), mean(|of| of.seconds));
    let over: f64 = logs.iter().map(|of| (of.size - x) * (of.seconds - y)).sum();
    let under: f64 = logs.iter().map(|of| (of.size - x).powi(2)).sum();
    println!("| {what} | its size | to the power of {:.2} | |", over / under);
}
