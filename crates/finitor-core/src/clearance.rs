//! Where on a stage a body has room: the places its pivot may be, passages and what is short in them, where it must stay low, and
//! pockets that it cannot leave.

mod low;
mod passages;
mod pockets;
mod stance;
mod strips;
mod survey;
mod ways;

pub use low::{LowStretch, low_stretches};
pub(crate) use passages::{Border, least_room};
pub use passages::{Passage, PassageKind, Room, passages};
pub use pockets::{Pocket, pockets};
pub use stance::{Stance, StanceShape};
pub use survey::{BodyPocket, LowPlace, StageClearance};
pub(crate) use ways::{Seen, Ways};
