//! Chance that is the same on every machine.

/// Numbers by chance, the same for a seed (splitmix64; Steele, Lea and Flood 2014).
pub(crate) struct Dice(pub(crate) u64);

impl Dice {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    pub(crate) fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * (self.next() >> 11) as f64 / (1_u64 << 53) as f64
    }

    pub(crate) fn below(&mut self, limit: u64) -> u64 {
        self.next() % limit
    }
}
