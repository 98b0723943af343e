//! x
/// x
pub fn clean_take() -> String { String::new() }
/// x
pub fn faults_take() -> String { String::new() }
