//! A calculation as a scalar function of the engine.

use crate::calendars::Calendars;
use crate::columns::{Input, Inputs, empty_rows};
use crate::functions::{FunctionKind, Planned};
use crate::literals::Literals;
use arrow::array::{Array, ArrayRef, StringBuilder, new_null_array};
use arrow::datatypes::{DataType, Field, FieldRef};
use datafusion::common::ScalarValue;
use datafusion::error::{DataFusionError, Result};
use datafusion::logical_expr::{
    ColumnarValue, ReturnFieldArgs, ScalarFunctionArgs, ScalarUDFImpl, Signature, Volatility,
};
use mild_ledger::Date;
use mild_ledger::column::Cell;
use std::fmt::{self, Debug, Formatter};
use std::hash::{Hash, Hasher};
use std::sync::{Arc, Mutex, PoisonError};

/// The request to a calculation.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub(crate) enum Asked {
    /// Its figure.
    Figure,
    /// Why the figure of a row is empty though its inputs are not.
    WhyEmpty,
}

/// A calculation, registered with a session.
#[derive(Debug)]
pub(crate) struct Function {
    kind: &'static FunctionKind,
    asked: Asked,
    name: String,
    calendars: Arc<Calendars>,
    signature: Signature,
    known: Known,
}

/// What was made of the constants of calls lately: the engine asks again for every batch.
#[derive(Default)]
struct Known(Mutex<Vec<(Constants, Arc<Planned>)>>);

/// The constants of a call, by their places.
type Constants = Vec<Option<ScalarValue>>;

/// How many are held.
const MOST_KNOWN: usize = 8;

impl Known {
    /// What was made of some constants, or is.
    fn of(
        &self,
        constants: Vec<Option<&ScalarValue>>,
        plan: impl FnOnce(Vec<Option<&ScalarValue>>) -> Result<Planned>,
    ) -> Result<Arc<Planned>> {
        let mut known = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let is_of = |of: &[Option<ScalarValue>]| {
            of.len() == constants.len() && of.iter().map(Option::as_ref).eq(constants.iter().copied())
        };
        if let Some((_, planned)) = known.iter().find(|(of, _)| is_of(of)) {
            return Ok(Arc::clone(planned));
        }
        let of = constants.iter().map(|constant| constant.cloned()).collect();
        let planned = Arc::new(plan(constants)?);
        known.insert(0, (of, Arc::clone(&planned)));
        known.truncate(MOST_KNOWN);
        Ok(planned)
    }
}

impl Debug for Known {
    fn fmt(&self, f: &mut Formatter<'_>) -> fmt::Result {
        f.write_str("Known")
    }
}

impl Function {
    pub(crate) fn new(kind: &'static FunctionKind, asked: Asked, calendars: Arc<Calendars>) -> Self {
        let name = match asked {
            Asked::Figure => kind.name.to_owned(),
            Asked::WhyEmpty => why_empty_of(kind.name),
        };
        Self {
            kind,
            asked,
            name,
            calendars,
            signature: Signature::user_defined(Volatility::Immutable),
            known: Known::default(),
        }
    }

    fn wrong(&self, what: &str) -> DataFusionError {
        DataFusionError::Plan(format!("{}({}): {what}", self.name, self.kind.arguments()))
    }

    /// What constants make of it; wrong ones are an error.
    fn planned(&self, literals: Vec<Option<&ScalarValue>>) -> Result<Planned> {
        (self.kind.plan)(&Literals { function: self.kind.name, all: literals, calendars: &self.calendars })
    }
}

/// The function that gives the reasons of another.
pub(crate) fn why_empty_of(name: &str) -> String {
    format!("why_empty_{name}")
}

/// Of one session the calendars are the same, so that the name distinguishes functions.
impl PartialEq for Function {
    fn eq(&self, other: &Self) -> bool {
        self.name == other.name && Arc::ptr_eq(&self.calendars, &other.calendars)
    }
}

impl Eq for Function {}

impl Hash for Function {
    fn hash<H: Hasher>(&self, state: &mut H) {
        self.name.hash(state);
    }
}

impl ScalarUDFImpl for Function {
    fn name(&self) -> &str {
        &self.name
    }

    fn signature(&self) -> &Signature {
        &self.signature
    }

    fn return_type(&self, _: &[DataType]) -> Result<DataType> {
        Err(DataFusionError::Internal("what it gives depends on its constants".to_owned()))
    }

    fn return_field_from_args(&self, args: ReturnFieldArgs<'_>) -> Result<FieldRef> {
        let gives = self.planned(args.scalar_arguments.to_vec())?.gives;
        let gives = match self.asked {
            Asked::Figure => gives,
            Asked::WhyEmpty => DataType::Utf8,
        };
        Ok(Arc::new(Field::new(&self.name, gives, true)))
    }

    fn coerce_types(&self, given: &[DataType]) -> Result<Vec<DataType>> {
        self.kind.taken(given).map_err(|what| self.wrong(&what))
    }

    fn invoke_with_args(&self, args: ScalarFunctionArgs) -> Result<ColumnarValue> {
        let literals = args.args.iter().map(|argument| match argument {
            ColumnarValue::Scalar(value) => Some(value),
            ColumnarValue::Array(_) => None,
        });
        let planned = self.known.of(literals.collect(), |constants| self.planned(constants))?;
        let of_columns: Vec<&ColumnarValue> = args
            .args
            .iter()
            .zip(self.kind.takes)
            .filter(|(_, takes)| takes.is_column())
            .map(|(given, _)| given)
            .collect();
        let is_one = of_columns.iter().all(|given| matches!(given, ColumnarValue::Scalar(_)));
        let rows = if is_one { 1 } else { args.number_rows };
        let all = of_columns.into_iter().map(|given| input_of(given, rows)).collect::<Result<Vec<_>>>()?;
        let inputs = Inputs { all, rows };
        let figures = (planned.work)(&inputs)?;
        let found = match self.asked {
            Asked::Figure => figures,
            Asked::WhyEmpty => reasons(&planned, &inputs, figures.as_ref()),
        };
        // Inputs that are all one value give one value, whatever the rows.
        Ok(match is_one {
            true => ColumnarValue::Scalar(ScalarValue::try_from_array(&found, 0)?),
            false => ColumnarValue::Array(found),
        })
    }
}

/// The reason of each empty figure; one whose inputs are empty has none.
fn reasons(planned: &Planned, inputs: &Inputs, figures: &dyn Array) -> ArrayRef {
    let mut texts = StringBuilder::new();
    for (row, is_empty) in empty_rows(figures).iter().enumerate() {
        texts.append_option(if is_empty == Some(true) { (planned.why)(inputs, row) } else { None });
    }
    Arc::new(texts.finish())
}

/// An argument as a column or one value; an empty value is a column of empty rows.
fn input_of(given: &ColumnarValue, rows: usize) -> Result<Input> {
    let array = match given {
        ColumnarValue::Scalar(ScalarValue::Date32(Some(day))) => match Date::of_stored(*day) {
            Some(date) => return Ok(Input::EveryDate(date)),
            None => new_null_array(&DataType::Date32, rows),
        },
        ColumnarValue::Scalar(ScalarValue::Int32(Some(figure))) => return Ok(Input::EveryFigure(*figure)),
        ColumnarValue::Scalar(value) => value.to_array_of_size(rows)?,
        ColumnarValue::Array(array) => Arc::clone(array),
    };
    let any = array.as_any();
    let dates = any.downcast_ref().cloned().map(Input::Dates);
    let input = dates.or_else(|| any.downcast_ref().cloned().map(Input::Figures));
    input.ok_or_else(|| DataFusionError::Internal(format!("{} is not an input", array.data_type())))
}
