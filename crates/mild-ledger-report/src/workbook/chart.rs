//! Charts that the spreadsheet draws.

use super::cells::{in_sheet, shown_with};
use crate::facts::{Bar, Chart, Shade};
use crate::picture::bars::solid;
use crate::shown::visible;
use mild_ledger::Decimal;
use rust_xlsxwriter::{
    Chart as SheetChart, ChartAxisLabelPosition, ChartFormat, ChartSolidFill, ChartType, Color, Format,
    FormatAlign, Worksheet, XlsxError,
};

/// Where a bar that does not begin at nothing lies lowest, and its length up or down from where it begins.
fn from_and_length(bar: &Bar) -> Vec<Decimal> {
    let length = bar.parts.first().copied().unwrap_or_default();
    let lowest = bar.from.checked_add(length.min(Decimal::ZERO)).unwrap_or(bar.from);
    let size = if length < Decimal::ZERO { length.checked_neg().unwrap_or(length) } else { length };
    match length < Decimal::ZERO {
        true => vec![lowest, Decimal::ZERO, size],
        false => vec![lowest, size, Decimal::ZERO],
    }
}

/// The figures of a chart, the chart below them, and the row after it.
pub(super) fn put_chart(sheet: &mut Worksheet, chart: &Chart, row: u32) -> Result<u32, XlsxError> {
    let name = sheet.name();
    let bold = Format::new().set_bold();
    let begins = chart.bars.iter().any(|bar| bar.from != Decimal::ZERO);
    let parts: Vec<&str> = match (chart.parts.is_empty(), begins) {
        (true, true) => vec!["from", "up", "down"],
        (true, false) => vec!["figure"],
        (false, _) => chart.parts.iter().map(|part| part.name.as_str()).collect(),
    };
    for (nth, part) in (1_u16..).zip(&parts) {
        sheet.write_string_with_format(
            row,
            nth,
            &*visible(part),
            &bold.clone().set_align(FormatAlign::Right),
        )?;
    }
    for (line, bar) in (row + 1..).zip(&chart.bars) {
        sheet.write_string(line, 0, &*visible(&bar.name))?;
        let lengths = if begins { from_and_length(bar) } else { bar.parts.clone() };
        for (nth, figure) in (1_u16..).zip(&lengths) {
            if let Some(value) = in_sheet(*figure) {
                sheet.write_number_with_format(
                    line,
                    nth,
                    value,
                    &Format::new().set_num_format(shown_with(figure.decimals())),
                )?;
            }
        }
    }
    let last = row + u32::try_from(chart.bars.len()).unwrap_or(0);
    let mut drawn = SheetChart::new(ChartType::BarStacked);
    for nth in 1..=u16::try_from(parts.len()).unwrap_or(1) {
        let colour = chart.parts.get(usize::from(nth) - 1).map_or(Shade::InOrder(0.6), |part| part.shade);
        let colour = if begins && nth == 3 { Shade::BelowZero } else { colour };
        let [red, green, blue] = solid(colour).map(u32::from);
        let mut fill = ChartSolidFill::new();
        fill.set_color(Color::RGB(red << 16 | green << 8 | blue));
        let mut format = ChartFormat::new();
        match begins && nth == 1 {
            true => format.set_no_fill(),
            false => format.set_solid_fill(&fill),
        };
        drawn
            .add_series()
            .set_name((name.as_str(), row, nth))
            .set_categories((name.as_str(), row + 1, 0, last, 0))
            .set_values((name.as_str(), row + 1, nth, last, nth))
            .set_format(&mut format);
    }
    drawn.title().set_name(&*visible(&chart.title()));
    // The first row is at the top, as in the table.
    drawn.y_axis().set_reverse().set_label_position(ChartAxisLabelPosition::Low);
    if chart.parts.is_empty() {
        drawn.legend().set_hidden();
    }
    let height = 90 + 26 * u32::try_from(chart.bars.len()).unwrap_or(0);
    drawn.set_width(760).set_height(height);
    sheet.insert_chart(last + 2, 0, &drawn)?;
    Ok(last + 2 + height / 20 + 2)
}
