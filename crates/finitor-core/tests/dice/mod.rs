//! Numbers by chance for tests: the same for a seed, on every machine.
#![allow(dead_code, unreachable_pub, reason = "each test file uses a part")]

/// A seeded generator.
pub struct Dice(fastrand::Rng);

impl Dice {
    pub fn new(seed: u64) -> Dice {
        Dice(fastrand::Rng::with_seed(seed))
    }

    /// A whole number from 0 to less than a limit; 0 where that is 0.
    pub fn below(&mut self, limit: u64) -> u64 {
        self.0.u64(0..limit.max(1))
    }

    /// A whole number from low to high.
    pub fn whole(&mut self, low: u32, high: u32) -> u32 {
        self.0.u32(low..=high)
    }

    /// Any number from low to high.
    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.0.f64()
    }

    /// A number from low to high in hundredths.
    pub fn hundredths(&mut self, low: f64, high: f64) -> f64 {
        low + self.below(((high - low) * 100.0) as u64 + 1) as f64 / 100.0
    }
}
