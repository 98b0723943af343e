//! The pack as CBOR (RFC 8949): the same keys as the JSON, numbers in the fewest bytes that hold them.

use super::Pack;

/// Writes a pack.
///
/// # Errors
/// Those of the encoder.
pub fn to_cbor(pack: &Pack) -> Result<Vec<u8>, std::io::Error> {
    let mut bytes = Vec::new();
    ciborium::into_writer(pack, &mut bytes).map_err(std::io::Error::other)?;
    Ok(bytes)
}

/// Reads a pack.
///
/// # Errors
/// What is wrong.
pub fn from_cbor(bytes: &[u8]) -> Result<Pack, String> {
    ciborium::from_reader(bytes).map_err(|error| format!("is no CBOR of a pack: {error}"))
}
