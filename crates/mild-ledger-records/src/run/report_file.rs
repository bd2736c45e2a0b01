//! Reports as files: the rows of their tables, written in the format of the file's name and read back.

use super::outcome::RunFile;
use super::outputs::{CurrencyIn, Output, Summed};
use super::read_back::{SumsInOutput, read_all};
use crate::error::RecordsError;
use crate::files::HashKind;
use crate::reports::{FlatTable, Report, SummedColumn};
use crate::sink::{RowBytes, SinkKind, Target, Written};
use crate::source::{OwnFile, Signs};
use crate::table::Kept;
use std::fs::File;
use std::num::NonZeroUsize;
use std::path::Path;

/// A report that was written, and the texts that come after an apostrophe because a spreadsheet would have run them.
pub(super) struct ReportWritten {
    pub(super) file: RunFile,
    pub(super) behind_apostrophe: u64,
}

/// Writes a report and reads it back: rows, bytes and the sums of its columns are what they were.
pub(super) fn write(
    output: &Output,
    (file, part): (File, &Path),
    report: &Report,
    hash: HashKind,
) -> Result<ReportWritten, RecordsError> {
    let table = FlatTable::of(report);
    let sums = table.sums().ok_or_else(|| RecordsError::too_large_in_all(&report.title))?;
    let written = put(output, (file, part), &table)?;
    let failed = || RecordsError::file(&output.place, "read it back");
    let summed: Vec<Option<Summed>> = sums.iter().map(|sum| Some(summed_in(output, sum))).collect();
    let own = OwnFile {
        path: part.to_owned(),
        kept: Kept::Only(summed.iter().flatten().flat_map(Summed::places).collect()),
        input: Box::new(File::open(part).map_err(failed())?),
        columns: table.columns().to_vec(),
        table: output.form.table().to_owned(),
        signs: Signs { separator: output.form.separator, ..Signs::default() },
        hash,
    };
    let found = read_all(&output.place, own, &summed, NonZeroUsize::MIN)?;
    let differs = |what: &str| RecordsError::Proof {
        what: format!("{what} of \"{}\" differ from those in its file", report.title),
    };
    let rows = table.rows();
    if found.end.rows != written.rows || usize::try_from(written.rows) != Ok(rows) {
        return Err(differs("the rows"));
    }
    if found.end.checksum != written.checksum {
        return Err(differs("the bytes"));
    }
    for (sum, back) in sums.iter().zip(&found.sums) {
        let Some(SumsInOutput::ByCurrency(back)) = back else { return Err(differs("the sums")) };
        // Of no rows there is no sum.
        if back.get("").copied().unwrap_or_else(|| sum.scale.amount(0)) != sum.sum {
            return Err(differs(&format!("the sums of \"{}\"", sum.name)));
        }
    }
    let fingerprint = found.end.fingerprint;
    Ok(ReportWritten {
        file: RunFile {
            name: output.name.clone(),
            path: output.place.clone(),
            rows: Some(found.end.rows),
            bytes: fingerprint.bytes,
            hash: fingerprint.hash,
            led_to: None,
        },
        behind_apostrophe: written.behind_apostrophe,
    })
}

fn put(output: &Output, (file, part): (File, &Path), table: &FlatTable) -> Result<Written, RecordsError> {
    let failed = || RecordsError::file(&output.place, "write it");
    let (kind, schema) = (SinkKind::of(&output.place), table.schema());
    let records = table.records().map_err(|error| RecordsError::Proof { what: error.to_string() })?;
    let form = kind.form(&schema, &output.form).map_err(failed())?;
    let target = Target { file, part, place: &output.place };
    let mut sink = kind.create(target, &schema, &output.form).map_err(failed())?;
    let rows: Vec<usize> = (0..table.rows()).collect();
    for some in rows.chunks(4_096) {
        let mut made = RowBytes::default();
        form.put(&records, some, &mut made).map_err(failed())?;
        sink.write(&made).map_err(failed())?;
    }
    sink.finish().map_err(failed())
}

fn summed_in(output: &Output, sum: &SummedColumn) -> Summed {
    Summed {
        place: sum.place,
        scale: sum.scale,
        notation: output.form.notation(),
        name: sum.name.clone(),
        currency: CurrencyIn::None,
    }
}
