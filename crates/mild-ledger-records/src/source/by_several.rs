//! Work that one hands out and several do, taken in the order in which it was handed out.

use crate::error::RecordsError;
use std::sync::mpsc::{Receiver, SyncSender, sync_channel};
use std::thread::Builder;

/// Pieces of work that wait for a hand at most, and those that it left.
const WAITING: usize = 3;

/// One thread asks for the next piece of work, others do the pieces in turn, and this one takes what they leave in the order in which it was handed
/// out, so that nothing depends on how many they are. Memory stays bounded, since a few pieces wait for each and no more. Gives the hands
/// back with what they counted; where the system gives fewer threads than there are hands, those that had some.
pub(crate) fn by_several<H: Send, W: Send, D: Send>(
    hands: Vec<H>,
    next: impl FnMut() -> Result<Option<W>, RecordsError> + Send,
    work: impl Fn(&mut H, W) -> Result<D, RecordsError> + Sync,
    take: impl FnMut(D) -> Result<(), RecordsError>,
) -> Result<Vec<H>, RecordsError> {
    std::thread::scope(|scope| {
        let (mut inboxes, mut outboxes) = (Vec::new(), Vec::new());
        let mut at_work = Vec::new();
        for mut hand in hands {
            let (inbox, waiting) = sync_channel::<Result<W, RecordsError>>(WAITING);
            let (left, outbox) = sync_channel::<Result<D, RecordsError>>(WAITING);
            let work = &work;
            let worked = move || {
                for piece in waiting {
                    if left.send(piece.and_then(|piece| work(&mut hand, piece))).is_err() {
                        break;
                    }
                }
                hand
            };
            match Builder::new().name("work".to_owned()).spawn_scoped(scope, worked) {
                Ok(thread) => at_work.push(thread),
                // As many as there can be; what they find does not depend on it.
                Err(_) if !at_work.is_empty() => break,
                Err(error) => return Err(RecordsError::no_thread(&error)),
            }
            inboxes.push(inbox);
            outboxes.push(outbox);
        }
        if at_work.is_empty() {
            return Err(stopped("works"));
        }
        let reading = Builder::new().name("read".to_owned());
        let reading = reading.spawn_scoped(scope, move || hand_out(next, &inboxes));
        let reading = reading.map_err(|error| RecordsError::no_thread(&error))?;
        let taken = take_all(&outboxes, take);
        // Whoever waits to hand something on is let go.
        drop(outboxes);
        reading.join().map_err(|_| stopped("reads"))?;
        let hands: Result<Vec<H>, _> =
            at_work.into_iter().map(|hand| hand.join().map_err(|_| stopped("works"))).collect();
        taken?;
        hands
    })
}

fn stopped(does: &str) -> RecordsError {
    RecordsError::Proof { what: format!("the thread that {does} stopped") }
}

/// Hands the pieces out in turn, up to the last or to the first that cannot be had.
fn hand_out<W>(
    mut next: impl FnMut() -> Result<Option<W>, RecordsError>,
    inboxes: &[SyncSender<Result<W, RecordsError>>],
) {
    for inbox in inboxes.iter().cycle() {
        let Some(piece) = next().transpose() else { break };
        let is_last = piece.is_err();
        if inbox.send(piece).is_err() || is_last {
            break;
        }
    }
}

/// Takes what the hands left, in the order in which they were given it.
fn take_all<D>(
    outboxes: &[Receiver<Result<D, RecordsError>>],
    mut take: impl FnMut(D) -> Result<(), RecordsError>,
) -> Result<(), RecordsError> {
    for outbox in outboxes.iter().cycle() {
        // Where the next in turn has nothing more to give, no one has.
        let Ok(done) = outbox.recv() else { break };
        take(done?)?;
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::by_several;
    use crate::error::RecordsError;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn what_is_left_comes_in_the_order_of_the_work(pieces in 0_u64..200, workers in 1_usize..6, fails_at in prop::option::of(0_u64..200)) {
            let mut given = 0..pieces;
            let mut taken = Vec::new();
            let hands = by_several(
                vec![0_u64; workers],
                || Ok(given.next()),
                |counted, piece| {
                    *counted += 1;
                    let fails = fails_at == Some(piece);
                    if fails { Err(RecordsError::Interrupted) } else { Ok(piece * 2) }
                },
                |done| {
                    taken.push(done);
                    Ok(())
                },
            );
            let whole = fails_at.is_none_or(|at| at >= pieces);
            prop_assert_eq!(hands.is_ok(), whole);
            let expected: Vec<u64> = (0..fails_at.unwrap_or(pieces).min(pieces)).map(|piece| piece * 2).collect();
            prop_assert_eq!(taken, expected);
            if let Ok(hands) = hands {
                prop_assert_eq!(hands.iter().sum::<u64>(), pieces);
            }
        }
    }
}
