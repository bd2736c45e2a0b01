//! The plan of a folder run in parts, one after the other: the plainest way to do it, which others are held against.

use mild_ledger_records::{
    DrawReport, Heard, PartFile, PartJob, PartWorker, PartedEnd, PartedRun, Piece, Plan, RecordsError,
    RunOutcome, RunRequest, Watch,
};
use std::collections::BTreeMap;
use std::sync::Arc;
use std::sync::atomic::AtomicBool;

/// How a run is cut.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Cutting {
    /// Bytes of a piece.
    pub bytes: usize,
    /// How many work on the pieces, each on some after each other.
    pub parts: usize,
    pub job: JobOf,
}

/// Where the workers on parts have their job from.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum JobOf {
    /// They share it.
    All,
    /// Each binds the plan anew from the setting that it was sent.
    Each,
}

/// Runs a plan in parts.
pub fn run_in_parts(
    plan: &Plan,
    request: &RunRequest,
    (cutting, draw): (Cutting, DrawReport<'_>),
) -> Result<RunOutcome, RecordsError> {
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    let mut run = PartedRun::begin(plan, request, cutting.bytes, watch)?;
    loop {
        let heard = worked_on(&run, cutting)?;
        match run.finish(heard.into_iter().map(Ok), Some(draw), watch)? {
            PartedEnd::Done(outcome) => return Ok(outcome),
            PartedEnd::Again(again) => run = again,
        }
    }
}

/// What is heard of all parts, in an order that is none.
fn worked_on(run: &PartedRun<'_>, cutting: Cutting) -> Result<Vec<Heard>, RecordsError> {
    let pieces = run.pieces();
    let of_part = pieces.len().div_ceil(cutting.parts.max(1)).max(1);
    let mut heard = Vec::new();
    let mut keys = Keys::new();
    let mut ordered = Vec::new();
    for (number, pieces) in pieces.chunks(of_part).enumerate() {
        let pieces: Vec<Piece> =
            pieces.iter().map(|piece| Piece::of_bytes(&piece.to_bytes()?)).collect::<Result<_, _>>()?;
        let job = match cutting.job {
            JobOf::All => Arc::clone(run.part()),
            JobOf::Each => Arc::new(PartJob::open(&run.part().setting()?, None)?),
        };
        work(&job, (number as u64, &pieces), (&mut heard, &mut keys, &mut ordered))?;
    }
    if run.part().is_ordered() {
        // Rows of all parts are merged by what they are ordered by.
        ordered.sort_by(|(one, ..), (other, ..)| one.cmp(other));
        let mut file = PartFile::create(run.part(), 0, "all")?;
        for (_, records, row) in &ordered {
            file.write(records, &[*row])?;
        }
        heard.push(Heard::Told(file.finish()?));
    }
    for (key, payloads) in keys.into_iter().filter(|(_, payloads)| payloads.len() > 1) {
        heard.extend(payloads.into_iter().map(|payload| Heard::RepeatedKey { key: key.clone(), payload }));
    }
    // Whoever is heard last is heard first here.
    heard.reverse();
    Ok(heard)
}

/// Keys with what is stated of each of their rows.
type Keys = BTreeMap<Vec<u8>, Vec<Vec<u8>>>;
/// What a row is ordered by, and where it is.
type Row = (Vec<u8>, arrow_array::RecordBatch, usize);

fn work(
    job: &Arc<PartJob>,
    (number, pieces): (u64, &[Piece]),
    (heard, keys, ordered): (&mut Vec<Heard>, &mut Keys, &mut Vec<Row>),
) -> Result<(), RecordsError> {
    let mut worker = PartWorker::new(job);
    let mut file = None;
    for piece in pieces {
        worker.begin(piece)?;
        while let Some(rows) = worker.next_rows()? {
            heard.extend(rows.told.into_iter().map(Heard::Told));
            for (key, payload) in rows.keys.iter().zip(&rows.payloads) {
                let payload = payload.unwrap_or_default().to_vec();
                keys.entry(key.unwrap_or_default().to_vec()).or_default().push(payload);
            }
            if job.is_ordered() {
                let order = rows.order.iter().map(|order| order.unwrap_or_default().to_vec());
                let rows_of = order.zip(&rows.written);
                ordered.extend(rows_of.map(|(order, row)| (order, rows.records.clone(), *row)));
            } else if !rows.written.is_empty() {
                let file = match &mut file {
                    Some(file) => file,
                    none => none.insert(PartFile::create(job, number, "first")?),
                };
                file.write(&rows.records, &rows.written)?;
            }
        }
    }
    heard.push(Heard::Told(worker.finish()?));
    if let Some(file) = file {
        heard.push(Heard::Told(file.finish()?));
    }
    Ok(())
}
