//! Errors of records within those of the engine, and back.

use datafusion::error::DataFusionError;
use mild_ledger_records::RecordsError;

/// An error of records, as the engine hands it on.
pub(super) fn within(error: RecordsError) -> DataFusionError {
    DataFusionError::External(Box::new(error))
}

/// The error of records within one of the engine; what the engine itself says where there is none.
pub(super) fn of_engine(error: DataFusionError) -> RecordsError {
    match error {
        DataFusionError::External(inside) => match inside.downcast::<RecordsError>() {
            Ok(own) => *own,
            Err(other) => engine_says(&other.to_string()),
        },
        DataFusionError::Context(_, inside) => of_engine(*inside),
        DataFusionError::Shared(inside) => match std::sync::Arc::try_unwrap(inside) {
            Ok(inside) => of_engine(inside),
            Err(shared) => engine_says(&shared.to_string()),
        },
        other => engine_says(&other.to_string()),
    }
}

fn engine_says(what: &str) -> RecordsError {
    RecordsError::Request {
        what: format!("the query engine could not run the plan: {what}"),
        help: "`mild run` runs it without one".to_owned(),
    }
}
