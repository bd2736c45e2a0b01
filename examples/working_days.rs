//! Working days of a boatyard: a count, a deadline, the day the books close, and a target spread over a quarter.
//!
//! ```text
//! cargo run --example working_days
//! ```

use mild_ledger::{
    Church, DateRange, Decimal, Ends, HolidayMove, HolidayRule, Interval, Occurrence, PeriodRule, RestDays,
    Roll, WorkCalendar, allocate,
};

fn main() -> Result<(), mild_ledger::Error> {
    let rules = [
        HolidayRule::new("New Year", Occurrence::on_day_of_year(1, 1)?)
            .with_moved(HolidayMove::FollowingMonday),
        HolidayRule::new("Good Friday", Occurrence::from_easter(-2, Church::Western)?),
        HolidayRule::new("Slip repair", Occurrence::on_date("2026-10-07".parse()?)),
    ];
    let yard = WorkCalendar::new("Quillhaven yard", RestDays::default(), 2026, 2027, &rules)?;

    let hire = Interval::between("2026-10-03".parse()?, "2026-10-18".parse()?);
    println!("hire: {}", yard.working_days(hire, Ends::FirstAndLast)?);

    let promised = yard.add_working_days("2026-10-02".parse()?, 10)?;
    println!("ten working days after 2026-10-02: {promised}");
    println!(
        "2026-10-31 rolled within its month: {}",
        yard.roll("2026-10-31".parse()?, Roll::ModifiedFollowing)?
    );

    let first = "2026-10-01".parse()?;
    let quarter = DateRange::new(first, "2026-12-31".parse()?)?;
    let months: Vec<_> = PeriodRule::Month.covering(quarter).collect();
    let mut days = Vec::new();
    for month in &months {
        println!("the books of {} close on {}", month.label(), yard.working_day_of(month, 3)?);
        let interval = Interval::between(month.first_day()?, month.last_day()?);
        days.push(u32::try_from(yard.count_working_days(interval, Ends::FirstAndLast)?).unwrap_or(0));
    }
    let target = Decimal::of_units(10_000_000, 2)?;
    for ((month, days), share) in months.iter().zip(&days).zip(allocate(target, &days, 2)?) {
        println!("{}: {days} working days, {share} of {target}", month.label());
    }
    Ok(())
}
