//! The aging table.

use super::Width;
use super::grid::Grid;
use super::text::wrapped;
use crate::numbers::{Decimals, amount, grouped, share};
use crate::shown::{shortened, visible, width_of};
use mild_ledger::Decimal;
use mild_ledger_records::{AgingGroup, AgingReport};

/// The shortest that names are cut to while decimals could go, and where nothing else can.
const SHORT_NAME: usize = 18;
const SHORTEST_NAME: usize = 10;
/// Groups shown; the rest stand together in a row, and one by one in the JSON.
const MOST_GROUPS: usize = 50;

/// The table of a report: a row a group, a column a bucket. Where it is too wide, names are shortened, then
/// decimals dropped, then each group becomes a block; no bucket and no total is ever left out.
pub(super) fn aging(title: &str, report: &AgingReport, width: Width) -> String {
    let by = report.by.as_deref().map_or_else(String::new, |by| format!(" by {}", visible(by)));
    let mut out = wrapped(
        &format!(
            "{}: open {}{by}, in buckets of {}",
            visible(title),
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
    /// Tight, and without each group's share of the total.
    TightWithoutShares,
}

fn body(report: &AgingReport, width: Width) -> String {
    let groups = groups_shown(report);
    let longest = groups.iter().map(|group| width_of(&group.name)).max().unwrap_or(0);
    let rounded = "Amounts without decimals, each rounded on its own.\n";
    let stages = [
        (Layout::Wide, Decimals::Shown, SHORT_NAME, ""),
        (Layout::Tight, Decimals::Shown, SHORT_NAME, ""),
        (Layout::Wide, Decimals::Dropped, SHORT_NAME, rounded),
        (Layout::Tight, Decimals::Dropped, SHORT_NAME, rounded),
        (Layout::TightWithoutShares, Decimals::Dropped, SHORTEST_NAME, rounded),
    ];
    for (layout, decimals, shortest, note) in stages {
        let made = |name_width| {
            let grid = table(report, &groups, name_width, decimals);
            match layout {
                Layout::Wide => grid,
                Layout::Tight => grid.tight(),
                Layout::TightWithoutShares => grid.without_last().tight(),
            }
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
        if name_width >= shortest.min(longest) {
            let short = made(Some(name_width));
            if width.fits(short.width()) {
                return format!("{}{note}", short.to_text());
            }
        }
    }
    blocks(report, &groups, width)
}

/// The largest groups under names that can be shown, and one of all that are left, so that the rows add up to the total.
fn groups_shown(report: &AgingReport) -> Vec<AgingGroup> {
    if report.by.is_none() {
        return Vec::new();
    }
    let mut all = report.groups();
    let mut shown: Vec<AgingGroup> = all.by_ref().take(MOST_GROUPS).collect();
    for group in &mut shown {
        let name = if group.name.is_empty() { "(blank)".into() } else { visible(&group.name).into_owned() };
        group.name = name;
    }
    let more = report.group_count() - shown.len();
    if more > 0 {
        let rest = |whole: Decimal, of: &dyn Fn(&AgingGroup) -> Decimal| {
            shown.iter().map(of).try_fold(whole, Decimal::checked_sub).unwrap_or(whole)
        };
        let amount = |nth: usize, whole: &Decimal| {
            rest(*whole, &|group| group.amounts.get(nth).copied().unwrap_or_default())
        };
        let amounts =
            report.total.amounts.iter().enumerate().map(|(nth, whole)| amount(nth, whole)).collect();
        let total = rest(report.total.total, &|group| group.total);
        shown.push(AgingGroup {
            name: format!("… and {} more", grouped(&more.to_string())), amounts, total
        });
    }
    shown
}

fn table(report: &AgingReport, groups: &[AgingGroup], name_width: Option<usize>, decimals: Decimals) -> Grid {
    let by = report.by.as_deref().map(visible).unwrap_or_default();
    let header = std::iter::once(by.into_owned()).chain(report.buckets.iter().cloned());
    let mut grid = Grid::new(header.chain(["Total".to_owned(), "Share".to_owned()])).align_left([0]);
    let whole = report.total.total;
    if report.by.is_some() {
        for group in groups {
            let name =
                name_width.map_or_else(|| group.name.clone(), |columns| shortened(&group.name, columns));
            grid.row(cells(name, group, decimals, share(group.total, whole)));
        }
        grid.line();
    }
    grid.row(cells("Total".to_owned(), &report.total, decimals, share(whole, whole)));
    let shares = report.total.amounts.iter().map(|amount| share(*amount, whole));
    grid.row(std::iter::once("Share".to_owned()).chain(shares).chain([share(whole, whole), String::new()]));
    let counts = report.counts.iter().map(|count| grouped(&count.to_string()));
    let all: u64 = report.counts.iter().sum();
    grid.row(
        std::iter::once("Rows".to_owned()).chain(counts).chain([grouped(&all.to_string()), String::new()]),
    );
    grid
}

fn cells(name: String, group: &AgingGroup, decimals: Decimals, share: String) -> Vec<String> {
    let amounts = group.amounts.iter().map(|units| amount(*units, decimals));
    std::iter::once(name).chain(amounts).chain([amount(group.total, decimals), share]).collect()
}

/// A block a group, for terminals that no table fits on.
fn blocks(report: &AgingReport, groups: &[AgingGroup], width: Width) -> String {
    let mut out = String::new();
    let whole = report.total.total;
    let groups = groups.iter().map(|group| (group.name.as_str(), group));
    for (name, group) in groups.chain([("Total", &report.total)]) {
        out.push_str(&wrapped(name, "", width));
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
