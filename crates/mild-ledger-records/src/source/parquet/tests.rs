//! Parquet files made on the spot, read by plans.

use crate::{Plan, RecordsError, RunRequest, Watch, look, run};
use arrow_array::types::{Int32Type, UInt16Type};
use arrow_array::{
    ArrayRef, BooleanArray, Date32Array, Decimal128Array, DictionaryArray, Float64Array, Int64Array,
    ListArray, RecordBatch, StringArray, Time64MicrosecondArray, TimestampMicrosecondArray,
    TimestampMillisecondArray, TimestampNanosecondArray,
};
use parquet::arrow::ArrowWriter;
use parquet::basic::Compression;
use parquet::file::properties::WriterProperties;
use std::fs::{self, File};
use std::path::Path;
use std::sync::Arc;
use std::sync::atomic::AtomicBool;

fn watch<T>(then: impl FnOnce(Watch<'_>) -> T) -> T {
    then(Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} })
}

fn write(folder: &Path, columns: Vec<(&str, ArrayRef)>, packed: Compression) {
    let batch = RecordBatch::try_from_iter(columns).unwrap();
    let file = File::create(folder.join("yard.parquet")).unwrap();
    let properties = WriterProperties::builder().set_compression(packed).build();
    let mut writer = ArrowWriter::try_new(file, batch.schema(), Some(properties)).unwrap();
    writer.write(&batch).unwrap();
    writer.close().unwrap();
}

/// The rows and the exceptions of a run over a file.
fn rows(folder: &Path, file: &str, more: &str) -> Result<[String; 2], RecordsError> {
    let text = format!(
        "plan = 1\n[records]\nfile = \"{file}\"\n{more}\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"
    );
    let plan = Plan::of_text(&text, &folder.join("plan.toml"))?;
    let request = RunRequest::new().with_existing(crate::ExistingFiles::Overwrite);
    watch(|watch| run(&plan, &request, watch))?;
    Ok(["rows.csv", "exceptions.csv"].map(|name| fs::read_to_string(folder.join(name)).unwrap()))
}

/// Invoices with each column of a type of its own.
fn invoices() -> Vec<(&'static str, ArrayRef)> {
    let customers: DictionaryArray<UInt16Type> = [Some("Heron"), Some("Heron"), None].into_iter().collect();
    let amounts =
        Decimal128Array::from(vec![Some(1050), Some(-30), Some(700)]).with_precision_and_scale(20, 2);
    vec![
        ("Invoice", Arc::new(StringArray::from(vec!["A1", "A2", "A3"]))),
        ("Customer", Arc::new(customers)),
        // 20,726 days from 1970 are 2026-09-30: 20,454 are 2026-01-01, and 30 September is day 273.
        ("Issued", Arc::new(Date32Array::from(vec![Some(20_726), None, Some(19_782)]))),
        ("Amount", Arc::new(amounts.unwrap())),
        ("Hours", Arc::new(Float64Array::from(vec![Some(0.1 + 0.2), Some(2.0), None]))),
        ("Weeks", Arc::new(Int64Array::from(vec![Some(3), None, Some(-4)]))),
        ("Done", Arc::new(BooleanArray::from(vec![Some(true), Some(false), None]))),
    ]
}

const WRITTEN: &str = "[records.amounts]\nAmount = { decimals = 2 }\n[records.numbers]\nHours = { decimals = 2 }\nWeeks = { decimals = 0 }";

#[test]
fn typed_columns_give_what_the_same_rows_give_as_csv_however_they_are_packed() {
    let folder = tempfile::tempdir().unwrap();
    let csv = "Invoice,Customer,Issued,Amount,Hours,Weeks,Done\nA1,Heron,2026-09-30,10.50,0.3,3,true\nA2,Heron,,-0.30,2,,false\nA3,,2024-02-29,7.00,,-4,\n";
    fs::write(folder.path().join("same.csv"), csv).unwrap();
    let as_csv =
        rows(folder.path(), "same.csv", &format!("[records.dates]\nIssued = \"iso\"\n{WRITTEN}")).unwrap();
    for packed in [
        Compression::UNCOMPRESSED,
        Compression::SNAPPY,
        Compression::GZIP(Default::default()),
        Compression::ZSTD(Default::default()),
        Compression::LZ4_RAW,
        Compression::BROTLI(Default::default()),
    ] {
        write(folder.path(), invoices(), packed);
        // Dates need no pattern: the format says what they are.
        let [rows, exceptions] = rows(folder.path(), "yard.parquet", WRITTEN).unwrap();
        assert_eq!(rows, as_csv[0], "{packed:?}");
        // What binary arithmetic made of 0.1 and 0.2 is rounded, and listed.
        let rounded = "yard.parquet,1,1,,Hours,0.30000000000000004,rounded: read as 0.30,,kept\n";
        assert_eq!(exceptions, format!("{}{rounded}", as_csv[1]), "{packed:?}");
    }
    assert!(as_csv[0].contains("A1,Heron,2026-09-30,10.50,0.30,3,true\n"), "{}", as_csv[0]);
    let found = watch(|watch| look(&folder.path().join("yard.parquet"), watch)).unwrap();
    assert_eq!((found.format, found.rows, found.columns[2].holds.word()), ("Parquet", 3, "date"));
}

#[test]
fn times_keep_their_instants_and_want_a_zone_to_be_days() {
    let folder = tempfile::tempdir().unwrap();
    // 2026-03-29T00:30 and 2026-06-30T23:30 in UTC, the second of which is 1 July in London.
    let instants = [1_774_744_200_000_i64, 1_782_862_200_000];
    let columns: Vec<(&str, ArrayRef)> = vec![
        ("Made", Arc::new(TimestampMillisecondArray::from(instants.to_vec()).with_timezone("UTC"))),
        ("Clock", Arc::new(TimestampMicrosecondArray::from(instants.map(|at| at * 1_000).to_vec()))),
        ("Fine", Arc::new(TimestampNanosecondArray::from(instants.map(|at| at * 1_000_000 + 1).to_vec()))),
    ];
    write(folder.path(), columns, Compression::SNAPPY);
    let zone = "[records.dates]\nMade = { pattern = \"iso\", zone = \"Europe/London\" }";
    let [written, listed] = rows(folder.path(), "yard.parquet", zone).unwrap();
    assert_eq!(
        written,
        "Made,Clock,Fine\n2026-03-29,2026-03-29T00:30:00,2026-03-29T00:30:00\n2026-07-01,2026-06-30T23:30:00,2026-06-30T23:30:00\n"
    );
    assert_eq!(listed.matches("digits finer than a microsecond dropped").count(), 2, "{listed}");
    let [written, listed] = rows(folder.path(), "yard.parquet", "").unwrap();
    assert!(written.contains("\n,2026-03-29T00:30:00,"), "{written}");
    assert!(
        listed.contains("a time with an offset or a zone needs a named zone to become a date"),
        "{listed}"
    );
}

#[test]
fn what_is_not_read_is_an_error_that_says_so() {
    let folder = tempfile::tempdir().unwrap();
    let lists = ListArray::from_iter_primitive::<Int32Type, _, _>([Some(vec![Some(1)])]);
    write(folder.path(), vec![("Berths", Arc::new(lists))], Compression::SNAPPY);
    let error = rows(folder.path(), "yard.parquet", "").unwrap_err().to_string();
    assert!(error.contains("no column of") && error.contains("\"Berths\" holds List"), "{error}");
    // A type that is not read does no harm unless the plan names its column, and then it is named.
    let lists = ListArray::from_iter_primitive::<Int32Type, _, _>([Some(vec![Some(1)]), None, Some(vec![])]);
    let times = Time64MicrosecondArray::from(vec![Some(1), None, Some(3)]);
    let names = StringArray::from(vec!["Heron", "Tern", "Gull"]);
    let table: Vec<(&str, ArrayRef)> =
        vec![("Berths", Arc::new(lists)), ("Name", Arc::new(names)), ("Hauled at", Arc::new(times))];
    write(folder.path(), table, Compression::SNAPPY);
    let [written, _] = rows(folder.path(), "yard.parquet", "").unwrap();
    assert_eq!(written, "Name\nHeron\nTern\nGull\n");
    let looked = watch(|watch| look(&folder.path().join("yard.parquet"), watch)).unwrap();
    let left_out = "the column \"Hauled at\" is left out: it holds Time64(µs), which is not read";
    assert!(looked.said.iter().any(|said| said.contains(left_out)), "{:?}", looked.said);
    let error = rows(folder.path(), "yard.parquet", "[records.dates]\n\"Hauled at\" = \"iso\"\n")
        .unwrap_err()
        .to_string();
    assert!(error.contains("the column \"Hauled at\" holds Time64(µs), which is not read"), "{error}");
    write(folder.path(), invoices(), Compression::SNAPPY);
    let whole = fs::read(folder.path().join("yard.parquet")).unwrap();
    for length in [0, 3, 100, whole.len() / 2, whole.len() - 1] {
        fs::write(folder.path().join("cut.parquet"), &whole[..length]).unwrap();
        let error = rows(folder.path(), "cut.parquet", WRITTEN).unwrap_err().to_string();
        assert!(error.contains("the Parquet file cannot be read"), "{length}: {error}");
    }
    // Each byte of its end, which says where everything is, turned over: never more than an error.
    for at in whole.len() - 200..whole.len() {
        let mut broken = whole.clone();
        broken[at] ^= 0x55;
        fs::write(folder.path().join("broken.parquet"), broken).unwrap();
        let _ = rows(folder.path(), "broken.parquet", WRITTEN);
    }
    assert!(folder.path().join("rows.csv").exists() || !folder.path().join("exceptions.csv").exists());
}

#[test]
fn a_byte_that_contradicts_the_others_is_an_error_of_the_file() {
    let folder = tempfile::tempdir().unwrap();
    write(folder.path(), invoices(), Compression::UNCOMPRESSED);
    let path = folder.path().join("yard.parquet");
    let whole = fs::read(&path).unwrap();
    let mut errors = Vec::new();
    for place in 4..900 {
        let mut broken = whole.clone();
        broken[place] = 0xff;
        fs::write(&path, broken).unwrap();
        match rows(folder.path(), "yard.parquet", WRITTEN) {
            Ok(_) => {}
            Err(RecordsError::Proof { what }) => panic!("byte {place}: {what}"),
            Err(error) => errors.push(error.to_string()),
        }
    }
    // Some of them the packages see for themselves; over some they panic.
    let contradictions = errors.iter().filter(|error| error.contains("parts of it contradict each other"));
    assert!(contradictions.count() > 0 && errors.len() > 100, "{errors:?}");
}
