//! Makes invoices in Parquet files, to see how fast they are read: `cargo run --example make_parquet -- ROWS FILES FOLDER`.

use arrow::array::{ArrayRef, Date32Array, Decimal128Array, RecordBatch, StringArray};
use arrow::datatypes::{DataType, Field, Schema};
use parquet::arrow::ArrowWriter;
use parquet::basic::Compression;
use parquet::file::properties::WriterProperties;
use std::error::Error;
use std::fs::{self, File};
use std::path::Path;
use std::sync::Arc;

/// Rows of a batch, and of a group.
const ROWS: u64 = 65_536;
/// Customers that there are.
const CUSTOMERS: u64 = 20_000;
/// 2024-01-01 as days from 1970-01-01; invoices are issued from there on.
const FIRST_DAY: i32 = 19_723;

fn main() -> Result<(), Box<dyn Error>> {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    let [rows, files, folder] = arguments.as_slice() else {
        return Err("make_parquet ROWS FILES FOLDER".into());
    };
    let (rows, files): (u64, u64) = (rows.parse()?, files.parse()?);
    fs::create_dir_all(folder)?;
    for file in 0..files {
        let (from, to) = (rows * file / files, rows * (file + 1) / files);
        write(&Path::new(folder).join(format!("invoices-{file:03}.parquet")), from, to)?;
    }
    Ok(())
}

fn write(path: &Path, from: u64, to: u64) -> Result<(), Box<dyn Error>> {
    let amount = DataType::Decimal128(18, 2);
    let schema = Arc::new(Schema::new(vec![
        Field::new("Invoice", DataType::Utf8, false),
        Field::new("Customer", DataType::Utf8, false),
        Field::new("Issued", DataType::Date32, false),
        Field::new("Paid", DataType::Date32, true),
        Field::new("Amount", amount, false),
    ]));
    let properties = WriterProperties::builder()
        .set_compression(Compression::SNAPPY)
        .set_max_row_group_row_count(Some(usize::try_from(ROWS)?))
        .build();
    let mut writer = ArrowWriter::try_new(File::create(path)?, Arc::clone(&schema), Some(properties))?;
    let mut first = from;
    while first < to {
        let rows = first..to.min(first + ROWS);
        first = rows.end;
        let issued = |row: u64| FIRST_DAY + i32::try_from(mixed(row) % 1_000).unwrap_or_default();
        let paid =
            |row: u64| (!mixed(row + 7).is_multiple_of(3)).then(|| issued(row) + 20 + (row % 40) as i32);
        let columns: Vec<ArrayRef> = vec![
            Arc::new(StringArray::from_iter_values(rows.clone().map(|row| format!("QB-{row:09}")))),
            Arc::new(StringArray::from_iter_values(
                rows.clone().map(|row| format!("Customer {:05}", mixed(row * 3) % CUSTOMERS)),
            )),
            Arc::new(Date32Array::from_iter_values(rows.clone().map(issued))),
            Arc::new(rows.clone().map(paid).collect::<Date32Array>()),
            Arc::new(
                Decimal128Array::from_iter_values(rows.map(|row| i128::from(mixed(row * 5) % 2_000_000)))
                    .with_precision_and_scale(18, 2)?,
            ),
        ];
        writer.write(&RecordBatch::try_new(Arc::clone(&schema), columns)?)?;
    }
    writer.close()?;
    Ok(())
}

/// A number that follows from another and looks like none.
fn mixed(number: u64) -> u64 {
    // The finish of SplitMix64, which is in the public domain.
    let mut mixed = number.wrapping_add(0x9e37_79b9_7f4a_7c15);
    mixed = (mixed ^ (mixed >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    mixed = (mixed ^ (mixed >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    mixed ^ (mixed >> 31)
}
