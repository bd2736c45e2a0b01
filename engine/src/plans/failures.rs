//! Errors of records within those of the engine, and back, also from another process of a cluster.

use datafusion::error::DataFusionError;
use mild_ledger_records::RecordsError;
use std::fmt::{self, Debug, Display, Formatter};
use std::sync::OnceLock;

/// What this process is called in errors that reach another one.
static PROCESS: OnceLock<String> = OnceLock::new();

/// Names this process, so that errors that it meets name it where the run was begun. The first name counts.
///
/// ```
/// mild_ledger_engine::name_process("the executor 10.0.0.2:50051".to_owned());
/// ```
pub fn name_process(name: String) {
    // A process has one name; a second one would not be truer.
    let _ = PROCESS.set(name);
}

/// The marks before and after the bytes of an error in the text of an error of the engine.
const BEGINS: &str = "mild-ledger-error:";
const ENDS: char = ';';

/// An error of records on its way through the engine. A cluster hands on the text of an error alone, as it is for programmers: there the error is
/// held as bytes too.
struct Carried(RecordsError);

impl Display for Carried {
    fn fmt(&self, f: &mut Formatter<'_>) -> fmt::Result {
        Display::fmt(&self.0, f)
    }
}

impl Debug for Carried {
    fn fmt(&self, f: &mut Formatter<'_>) -> fmt::Result {
        let process = PROCESS.get().map_or("", String::as_str);
        write!(
            f,
            "{} {BEGINS}{}:{}{ENDS}",
            self.0,
            to_hexadecimal(process.as_bytes()),
            to_hexadecimal(&self.0.to_bytes())
        )
    }
}

impl std::error::Error for Carried {}

/// An error of records, as the engine hands it on.
pub(super) fn within(error: RecordsError) -> DataFusionError {
    DataFusionError::External(Box::new(Carried(error)))
}

/// The error of records within one of the engine; what the engine itself says where there is none.
pub(super) fn of_engine(error: DataFusionError) -> RecordsError {
    match error {
        DataFusionError::External(inside) => match inside.downcast::<Carried>() {
            Ok(own) => own.0,
            Err(other) => of_text(&format!("{other:?}"), &other.to_string()),
        },
        DataFusionError::Context(_, inside) => of_engine(*inside),
        DataFusionError::Shared(inside) => match std::sync::Arc::try_unwrap(inside) {
            Ok(inside) => of_engine(inside),
            Err(shared) => of_text(&format!("{shared:?}"), &shared.to_string()),
        },
        other => of_text(&format!("{other:?}"), &other.to_string()),
    }
}

/// The error that a text holds; what the text says where it holds none.
fn of_text(text: &str, says: &str) -> RecordsError {
    carried_in(text).unwrap_or_else(|| RecordsError::Request {
        what: format!("the query engine could not run the plan: {}", says.replace("\\n", " ").trim()),
        help: "see what the scheduler and the executors print; with RUST_LOG=info they print more".to_owned(),
    })
}

fn carried_in(text: &str) -> Option<RecordsError> {
    let (_, carried) = text.split_once(BEGINS)?;
    let (carried, _) = carried.split_once(ENDS)?;
    let (process, error) = carried.split_once(':')?;
    let error = RecordsError::of_bytes(&of_hexadecimal(error)?)?;
    let process = String::from_utf8(of_hexadecimal(process)?).ok()?;
    Some(if process.is_empty() { error } else { error.met_by(&process) })
}

fn to_hexadecimal(bytes: &[u8]) -> String {
    bytes.iter().map(|byte| format!("{byte:02x}")).collect()
}

fn of_hexadecimal(text: &str) -> Option<Vec<u8>> {
    let digits = text.as_bytes().chunks(2).map(|pair| std::str::from_utf8(pair).ok());
    digits.map(|pair| u8::from_str_radix(pair?, 16).ok()).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::sync::Arc;

    #[test]
    fn an_error_comes_through_whatever_it_is_wrapped_in() {
        let error = || RecordsError::Request {
            what: "\"a; b\" is \u{e9} no date".to_owned(),
            help: "look".to_owned(),
        };
        let shared = Arc::new(within(error()));
        let wrapped = [
            within(error()),
            DataFusionError::Context("there".to_owned(), Box::new(within(error()))),
            DataFusionError::Shared(Arc::clone(&shared)),
            DataFusionError::Execution(format!("Job 7 failed: DataFusionError({:?})\\n", within(error()))),
            DataFusionError::External(format!("{:?}", format!("{:?}", within(error()))).into()),
        ];
        for engine in wrapped {
            let said = format!("{engine:?}");
            assert_eq!(of_engine(engine).to_string(), error().to_string(), "{said}");
        }
        let other = of_engine(DataFusionError::Execution("no memory".to_owned())).to_string();
        assert!(other.contains("no memory") && !other.contains("mild run"), "{other}");
    }
}
