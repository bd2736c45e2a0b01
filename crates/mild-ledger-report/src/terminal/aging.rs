//! The aging table.

use super::Width;
use super::grid::Grid;
use super::numbers::{Decimals, amount, share};
use super::text::{shortened, visible, width_of, wrapped};
use mild_ledger_records::{AgingGroup, AgingReport};

/// The shortest that names are cut to.
const SHORTEST_NAME: usize = 10;

/// The table of a report: a row a group, a column a bucket. Where it is too wide, names are shortened, then
/// decimals dropped, then each group becomes a block; no bucket and no total is ever left out.
pub(super) fn aging(report: &AgingReport, width: Width) -> String {
    let by = report.by.as_deref().map_or_else(String::new, |by| format!(" by {}", visible(by)));
    let mut out = wrapped(
        &format!(
            "{}: open {}{by}, in buckets of {}",
            visible(&report.title),
            visible(&report.amount_column),
            visible(&report.band_column)
        ),
        "",
        width,
    );
    out.push('\n');
    out.push_str(&body(report, width));
    out
}

/// How close together the columns of a stage stand.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Layout {
    Wide,
    Tight,
}

fn body(report: &AgingReport, width: Width) -> String {
    let longest = report.groups.iter().map(|group| width_of(&name_of(group))).max().unwrap_or(0);
    let rounded = "Amounts without decimals, each rounded on its own.\n";
    let stages = [
        (Layout::Wide, Decimals::Shown, ""),
        (Layout::Wide, Decimals::Dropped, rounded),
        (Layout::Tight, Decimals::Dropped, rounded),
    ];
    for (layout, decimals, note) in stages {
        let made = |name_width| {
            let grid = table(report, name_width, decimals);
            if layout == Layout::Tight { grid.tight() } else { grid }
        };
        let grid = made(None);
        let too_much = match width {
            Width::Columns(columns) => grid.width().saturating_sub(columns),
            Width::Unlimited => 0,
        };
        if too_much == 0 {
            return format!("{}{note}", grid.to_text());
        }
        let name_width = longest.saturating_sub(too_much);
        if name_width >= SHORTEST_NAME {
            let short = made(Some(name_width));
            if width.fits(short.width()) {
                return format!("{}{note}", short.to_text());
            }
        }
    }
    blocks(report, width)
}

fn name_of(group: &AgingGroup) -> String {
    if group.name.is_empty() { "(blank)".to_owned() } else { visible(&group.name).into_owned() }
}

fn table(report: &AgingReport, name_width: Option<usize>, decimals: Decimals) -> Grid {
    let by = report.by.as_deref().map(visible).unwrap_or_default();
    let header = std::iter::once(by.into_owned()).chain(report.buckets.iter().cloned());
    let mut grid = Grid::new(header.chain(["Total".to_owned(), "Share".to_owned()])).align_left([0]);
    let whole = report.total.total;
    if report.by.is_some() {
        for group in &report.groups {
            let name = name_of(group);
            let name = name_width.map_or_else(|| name.clone(), |columns| shortened(&name, columns));
            grid.row(cells(name, group, decimals, share(group.total, whole)));
        }
        grid.line();
    }
    grid.row(cells("Total".to_owned(), &report.total, decimals, share(whole, whole)));
    let shares = report.total.amounts.iter().map(|amount| share(*amount, whole));
    grid.row(std::iter::once("Share".to_owned()).chain(shares).chain([share(whole, whole), String::new()]));
    let counts = report.counts.iter().map(u64::to_string);
    let all: u64 = report.counts.iter().sum();
    grid.row(std::iter::once("Rows".to_owned()).chain(counts).chain([all.to_string(), String::new()]));
    grid
}

fn cells(name: String, group: &AgingGroup, decimals: Decimals, share: String) -> Vec<String> {
    let amounts = group.amounts.iter().map(|units| amount(*units, decimals));
    std::iter::once(name).chain(amounts).chain([amount(group.total, decimals), share]).collect()
}

/// A block a group, for terminals that no table fits on.
fn blocks(report: &AgingReport, width: Width) -> String {
    let mut out = String::new();
    let whole = report.total.total;
    let groups = report.groups.iter().filter(|_| report.by.is_some()).map(|group| (name_of(group), group));
    for (name, group) in groups.chain([("Total".to_owned(), &report.total)]) {
        out.push_str(&wrapped(&name, "", width));
        let mut grid = Grid::new(["", "Amount"]).align_left([0]);
        for (bucket, units) in report.buckets.iter().zip(&group.amounts) {
            grid.row([format!("  {bucket}"), amount(*units, Decimals::Shown)]);
        }
        grid.row(["  Total".to_owned(), amount(group.total, Decimals::Shown)]);
        grid.row(["  Share".to_owned(), share(group.total, whole)]);
        out.extend(grid.to_text().split_inclusive('\n').skip(2));
        out.push('\n');
    }
    out
}
