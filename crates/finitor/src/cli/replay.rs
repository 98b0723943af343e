//! Arguments of `finitor report` and `finitor watch`.

use super::FilterArgs;
use clap::Args;
use std::net::SocketAddr;
use std::path::PathBuf;

#[derive(Debug, Default, Args)]
pub(crate) struct ReplayArgs {
    /// Takes to play, CSV or JSON lines
    #[arg(value_name = "TAKE", required = true)]
    pub(crate) takes: Vec<PathBuf>,
    /// The page to write; - writes it to standard output
    #[arg(long, short, value_name = "FILE", default_value = "report.html")]
    pub(crate) out: PathBuf,
    #[command(flatten)]
    pub(crate) checks: PlayedChecks,
}

/// What is checked, and what of it is shown.
#[derive(Clone, Debug, Default, Args)]
pub(crate) struct PlayedChecks {
    /// Stage the takes were recorded on [default: the only one]
    #[arg(long)]
    pub(crate) stage: Option<String>,
    #[command(flatten)]
    pub(crate) filter: FilterArgs,
    /// Let the rows of this many takes of one file be mixed, which its column `take` tells apart
    #[arg(long, value_name = "TAKES", default_value_t = 1)]
    pub(crate) mixed: usize,
}

#[derive(Debug, Default, Args)]
pub(crate) struct WatchArgs {
    /// Takes to check again on every change, CSV or JSON lines [default: only fit]
    #[arg(value_name = "TAKE")]
    pub(crate) takes: Vec<PathBuf>,
    /// Write the page of `finitor report` on every change
    #[arg(long, value_name = "FILE", requires = "takes")]
    pub(crate) page: Option<PathBuf>,
    /// Draw the contact sheets of actors again whose shapes changed, as PNG and SVG
    #[arg(long)]
    pub(crate) draw: bool,
    /// Serve the page to browsers of this machine; it renews itself [default address: 127.0.0.1:8117]
    #[arg(long, value_name = "ADDR", num_args = 0..=1, default_missing_value = "127.0.0.1:8117", requires = "takes", value_parser = loopback)]
    pub(crate) serve: Option<SocketAddr>,
    /// Takes may still be written: check what is there by now, up to the last whole row
    #[arg(long, requires = "takes")]
    pub(crate) follow: bool,
    #[command(flatten)]
    pub(crate) checks: PlayedChecks,
}

/// An address of this machine that no other one reaches.
fn loopback(text: &str) -> Result<SocketAddr, String> {
    let hint = "write a loopback address with a port, such as 127.0.0.1:8117, [::1]:8117, or a port alone";
    let port = text.parse::<u16>().map(|port| SocketAddr::from(([127, 0, 0, 1], port)));
    let named = text.strip_prefix("localhost:").map_or_else(|| text.to_string(), |port| format!("127.0.0.1:{port}"));
    let address = port.or_else(|_| named.parse::<SocketAddr>()).map_err(|_| hint.to_string())?;
    if !address.ip().is_loopback() {
        return Err(format!("others could read the project at {}; {hint}", address.ip()));
    }
    Ok(address)
}
