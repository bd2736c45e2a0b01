//! A plan that takes the wrong line of a file as the header: one mistake that names the right line, in place of one for each column.

use super::job::{Job, ToRead};
use super::records::Records;
use crate::columns::AsOfDate;
use crate::error::RecordsError;
use crate::mistakes::PlanMistakes;
use crate::plan::Plan;
use crate::source::{FileForm, Reading, SourceKind, Sources};

impl Records {
    /// Binds a plan to the header of these records.
    pub(super) fn bind(
        &self,
        plan: &Plan,
        as_of: Option<AsOfDate>,
        reader: &Sources,
    ) -> Result<(Job, ToRead), RecordsError> {
        Job::bind(plan, as_of, self.shape(reader)).map_err(|error| match error {
            RecordsError::Plan(mistakes) => RecordsError::Plan(self.at_the_header(plan, mistakes)),
            other => other,
        })
    }

    /// The mistakes with one in place of several missing columns, where another line of the file has most of these.
    fn at_the_header(&self, plan: &Plan, mistakes: PlanMistakes) -> PlanMistakes {
        let missing = mistakes.missing_columns();
        let [file] = self.files.as_slice() else { return mistakes };
        if missing.len() < 2 {
            return mistakes;
        }
        let reading = plan.reading();
        let Ok(found) = SourceKind::of(&file.path).form_of(&file.path, None) else { return mistakes };
        let (now, line) = (reading.form.header_line.unwrap_or(1), found.header_line.unwrap_or(1));
        if line == now {
            return mistakes;
        }
        let form = FileForm { header_line: Some(line), ..reading.form.clone() };
        let Ok(other) = self.open(&Reading { form, ..reading }) else { return mistakes };
        let has = |name: &str| other.columns().iter().any(|column| column == name);
        if 2 * missing.iter().filter(|name| has(name)).count() <= missing.len() {
            return mistakes;
        }
        let what = format!("line {now} of {} is not the header of these columns; line {line} is", file.name);
        let place = plan.records_files.first().map(|name| name.span.clone());
        mistakes.with_one_cause(has, place, what, format!("header_line = {line} under [records]"))
    }
}
