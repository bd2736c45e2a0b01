//! The calendars that ship against days that are public record.

#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::{
    Combination, Date, DateRange, DayKind, Ends, HolidayRule, Interval, Occurrence, RestDays, WorkCalendar,
};
use mild_ledger_calendars::{SHIPPED, named};
use proptest::prelude::*;

/// The days of a year from Monday to Friday on which a calendar is closed, as month-day.
fn closed_weekdays(name: &str, year: i32) -> String {
    let calendar = named(name).unwrap().calendar().unwrap();
    let first = Date::new(year, 1, 1).unwrap().day_number();
    let days =
        (first..).map(|number| Date::from_day_number(number).unwrap()).take_while(|date| date.year() == year);
    days.filter(|date| calendar.kind_of(*date).unwrap() == DayKind::Holiday)
        .map(|date| format!("{:02}-{:02}", date.month(), date.day()))
        .collect::<Vec<_>>()
        .join(" ")
}

fn held(name: &str, years: &[(i32, &str)]) {
    for (year, days) in years {
        assert_eq!(closed_weekdays(name, *year), *days, "{name} {year}");
    }
}

/// Federal holidays as the Office of Personnel Management lists them for each year.
#[test]
fn united_states() {
    held(
        "us-federal",
        &[
            (2015, "01-01 01-19 02-16 05-25 07-03 09-07 10-12 11-11 11-26 12-25"),
            (2016, "01-01 01-18 02-15 05-30 07-04 09-05 10-10 11-11 11-24 12-26"),
            (2017, "01-02 01-16 02-20 05-29 07-04 09-04 10-09 11-10 11-23 12-25"),
            (2020, "01-01 01-20 02-17 05-25 07-03 09-07 10-12 11-11 11-26 12-25"),
            // New Year's Day of 2022 was kept in 2021.
            (2021, "01-01 01-18 02-15 05-31 06-18 07-05 09-06 10-11 11-11 11-25 12-24 12-31"),
            (2022, "01-17 02-21 05-30 06-20 07-04 09-05 10-10 11-11 11-24 12-26"),
            (2023, "01-02 01-16 02-20 05-29 06-19 07-04 09-04 10-09 11-10 11-23 12-25"),
            (2025, "01-01 01-20 02-17 05-26 06-19 07-04 09-01 10-13 11-11 11-27 12-25"),
            (2026, "01-01 01-19 02-16 05-25 06-19 07-03 09-07 10-12 11-11 11-26 12-25"),
            (2027, "01-01 01-18 02-15 05-31 06-18 07-05 09-06 10-11 11-11 11-25 12-24 12-31"),
            (2030, "01-01 01-21 02-18 05-27 06-19 07-04 09-02 10-14 11-11 11-28 12-25"),
        ],
    );
}

/// Bank holidays as the government of the United Kingdom lists them.
#[test]
fn united_kingdom() {
    held(
        "england-wales",
        &[
            (2015, "01-01 04-03 04-06 05-04 05-25 08-31 12-25 12-28"),
            (2016, "01-01 03-25 03-28 05-02 05-30 08-29 12-26 12-27"),
            (2017, "01-02 04-14 04-17 05-01 05-29 08-28 12-25 12-26"),
            (2020, "01-01 04-10 04-13 05-08 05-25 08-31 12-25 12-28"),
            (2021, "01-01 04-02 04-05 05-03 05-31 08-30 12-27 12-28"),
            (2022, "01-03 04-15 04-18 05-02 06-02 06-03 08-29 09-19 12-26 12-27"),
            (2023, "01-02 04-07 04-10 05-01 05-08 05-29 08-28 12-25 12-26"),
            (2026, "01-01 04-03 04-06 05-04 05-25 08-31 12-25 12-28"),
            (2027, "01-01 03-26 03-29 05-03 05-31 08-30 12-27 12-28"),
        ],
    );
    held(
        "scotland",
        &[
            (2015, "01-01 01-02 04-03 05-04 05-25 08-03 11-30 12-25 12-28"),
            (2019, "01-01 01-02 04-19 05-06 05-27 08-05 12-02 12-25 12-26"),
            (2021, "01-01 01-04 04-02 05-03 05-31 08-02 11-30 12-27 12-28"),
            (2022, "01-03 01-04 04-15 05-02 06-02 06-03 08-01 09-19 11-30 12-26 12-27"),
            (2023, "01-02 01-03 04-07 05-01 05-08 05-29 08-07 11-30 12-25 12-26"),
            (2024, "01-01 01-02 03-29 05-06 05-27 08-05 12-02 12-25 12-26"),
            (2025, "01-01 01-02 04-18 05-05 05-26 08-04 12-01 12-25 12-26"),
        ],
    );
    held(
        "northern-ireland",
        &[
            (2019, "01-01 03-18 04-19 04-22 05-06 05-27 07-12 08-26 12-25 12-26"),
            (2020, "01-01 03-17 04-10 04-13 05-08 05-25 07-13 08-31 12-25 12-28"),
            (2024, "01-01 03-18 03-29 04-01 05-06 05-27 07-12 08-26 12-25 12-26"),
        ],
    );
}

/// As citizensinformation.ie, the acts and the yearly notices of each country list them.
#[test]
fn the_rest_of_europe() {
    held(
        "ireland",
        &[
            (2022, "03-17 03-18 04-18 05-02 06-06 08-01 10-31 12-26"),
            (2023, "02-06 03-17 04-10 05-01 06-05 08-07 10-30 12-25 12-26"),
            (2024, "01-01 02-05 04-01 05-06 06-03 08-05 10-28 12-25 12-26"),
        ],
    );
    held(
        "germany",
        &[
            (2017, "04-14 04-17 05-01 05-25 06-05 10-03 10-31 12-25 12-26"),
            (2024, "01-01 03-29 04-01 05-01 05-09 05-20 10-03 12-25 12-26"),
            (2026, "01-01 04-03 04-06 05-01 05-14 05-25 12-25"),
            (2030, "01-01 04-19 04-22 05-01 05-30 06-10 10-03 12-25 12-26"),
        ],
    );
    held(
        "france",
        &[
            (2015, "01-01 04-06 05-01 05-08 05-14 05-25 07-14 11-11 12-25"),
            (2024, "01-01 04-01 05-01 05-08 05-09 05-20 08-15 11-01 11-11 12-25"),
            (2026, "01-01 04-06 05-01 05-08 05-14 05-25 07-14 11-11 12-25"),
        ],
    );
    held(
        "netherlands",
        &[
            (2024, "01-01 04-01 05-09 05-20 12-25 12-26"),
            (2025, "01-01 04-21 05-05 05-29 06-09 12-25 12-26"),
            (2026, "01-01 04-06 04-27 05-05 05-14 05-25 12-25"),
        ],
    );
    held(
        "spain",
        &[
            (2023, "01-06 04-07 05-01 08-15 10-12 11-01 12-06 12-08 12-25"),
            (2024, "01-01 03-29 05-01 08-15 11-01 12-06 12-25"),
        ],
    );
    held(
        "italy",
        &[
            (2023, "01-06 04-10 04-25 05-01 06-02 08-15 11-01 12-08 12-25 12-26"),
            (2024, "01-01 04-01 04-25 05-01 08-15 11-01 12-25 12-26"),
        ],
    );
    held(
        "euro-settlement",
        &[
            (2024, "01-01 03-29 04-01 05-01 12-25 12-26"),
            (2026, "01-01 04-03 04-06 05-01 12-25"),
            (2027, "01-01 03-26 03-29"),
        ],
    );
}

/// General holidays as the Canada Labour Code names them; the days in place of weekends are the employer's.
#[test]
fn canada() {
    held(
        "canada-federal",
        &[
            (2018, "01-01 03-30 05-21 07-02 09-03 10-08 12-25 12-26"),
            (2021, "01-01 04-02 05-24 07-01 09-06 09-30 10-11 11-11"),
            (2025, "01-01 04-18 05-19 07-01 09-01 09-30 10-13 11-11 12-25 12-26"),
        ],
    );
}

/// As the Fair Work Ombudsman and Employment New Zealand list them.
#[test]
fn oceania() {
    held(
        "australia",
        &[
            (2023, "01-02 01-26 04-07 04-10 04-25 12-25 12-26"),
            (2024, "01-01 01-26 03-29 04-01 04-25 12-25 12-26"),
            (2025, "01-01 01-27 04-18 04-21 04-25 12-25 12-26"),
        ],
    );
    held(
        "new-zealand",
        &[
            (2015, "01-01 01-02 02-06 04-03 04-06 04-27 06-01 10-26 12-25 12-28"),
            (2016, "01-01 01-04 02-08 03-25 03-28 04-25 06-06 10-24 12-26 12-27"),
            (2021, "01-01 01-04 02-08 04-02 04-05 04-26 06-07 10-25 12-27 12-28"),
            (2022, "01-03 01-04 02-07 04-15 04-18 04-25 06-06 06-24 09-26 10-24 12-26 12-27"),
            (2023, "01-02 01-03 02-06 04-07 04-10 04-25 06-05 07-14 10-23 12-25 12-26"),
            (2026, "01-01 01-02 02-06 04-03 04-06 04-27 06-01 07-10 10-26 12-25 12-28"),
        ],
    );
}

/// As the Cabinet Office of Japan lists them, and the three national days of India.
#[test]
fn asia() {
    held(
        "japan",
        &[
            (
                2015,
                "01-01 01-12 02-11 04-29 05-04 05-05 05-06 07-20 09-21 09-22 09-23 10-12 11-03 11-23 12-23",
            ),
            (
                2016,
                "01-01 01-11 02-11 03-21 04-29 05-03 05-04 05-05 07-18 08-11 09-19 09-22 10-10 11-03 11-23 12-23",
            ),
            (2018, "01-01 01-08 02-12 03-21 04-30 05-03 05-04 07-16 09-17 09-24 10-08 11-23 12-24"),
            (
                2019,
                "01-01 01-14 02-11 03-21 04-29 04-30 05-01 05-02 05-03 05-06 07-15 08-12 09-16 09-23 10-14 10-22 11-04",
            ),
            (
                2020,
                "01-01 01-13 02-11 02-24 03-20 04-29 05-04 05-05 05-06 07-23 07-24 08-10 09-21 09-22 11-03 11-23",
            ),
            (
                2021,
                "01-01 01-11 02-11 02-23 04-29 05-03 05-04 05-05 07-22 07-23 08-09 09-20 09-23 11-03 11-23",
            ),
            (2024, "01-01 01-08 02-12 02-23 03-20 04-29 05-03 05-06 07-15 08-12 09-16 09-23 10-14 11-04"),
            (
                2025,
                "01-01 01-13 02-11 02-24 03-20 04-29 05-05 05-06 07-21 08-11 09-15 09-23 10-13 11-03 11-24",
            ),
            (
                2026,
                "01-01 01-12 02-11 02-23 03-20 04-29 05-04 05-05 05-06 07-20 08-11 09-21 09-22 09-23 10-12 11-03 11-23",
            ),
        ],
    );
    held("india", &[(2026, "01-26 10-02"), (2025, "08-15 10-02")]);
}

#[test]
fn every_calendar_covers_its_years_and_no_other() {
    for shipped in SHIPPED {
        let calendar = shipped.calendar().unwrap();
        assert_eq!(calendar.by_rule(), shipped.by_rule());
        let years = shipped.covers();
        let (first, last) = (years.first(), years.last());
        assert_eq!(calendar.covers(), Some(years));
        assert!(!shipped.law().is_empty() && shipped.title().len() > 10);
        let ends = [Date::new(first, 1, 1).unwrap(), Date::new(last, 12, 31).unwrap()];
        let all = calendar.working_days(Interval::between(ends[0], ends[1]), Ends::FirstAndLast).unwrap();
        // Each year of each calendar has at least the fewest holidays that any of them has.
        for year in first..=last {
            assert!(
                calendar.holidays().iter().filter(|holiday| holiday.date().year() == year).count() >= 3,
                "{} {year}",
                shipped.name()
            );
        }
        assert!(all.count() > 0);
        for outside in [ends[0].day_number() - 1, ends[1].day_number() + 1] {
            assert!(calendar.kind_of(Date::from_day_number(outside).unwrap()).is_err());
        }
    }
    let names: std::collections::BTreeSet<&str> = SHIPPED.iter().map(|shipped| shipped.name()).collect();
    assert_eq!(names.len(), SHIPPED.len());
}

/// The first and the last covered year of those calendars that the lists above do not reach.
#[test]
fn both_ends_of_the_coverage() {
    held(
        "ireland",
        &[
            (2015, "01-01 03-17 04-06 05-04 06-01 08-03 10-26 12-25"),
            (2029, "01-01 02-05 04-02 05-07 06-04 08-06 10-29 12-25 12-26"),
        ],
    );
    held("germany", &[(2015, "01-01 04-03 04-06 05-01 05-14 05-25 12-25")]);
    held("france", &[(2030, "01-01 04-22 05-01 05-08 05-30 06-10 08-15 11-01 11-11 12-25")]);
    held(
        "netherlands",
        &[(2015, "01-01 04-06 04-27 05-05 05-14 05-25 12-25"), (2030, "01-01 04-22 05-30 06-10 12-25 12-26")],
    );
    held(
        "spain",
        &[
            (2015, "01-01 01-06 04-03 05-01 10-12 12-08 12-25"),
            (2025, "01-01 01-06 04-18 05-01 08-15 12-08 12-25"),
        ],
    );
    held(
        "italy",
        &[
            (2015, "01-01 01-06 04-06 05-01 06-02 12-08 12-25"),
            (2025, "01-01 01-06 04-21 04-25 05-01 06-02 08-15 12-08 12-25 12-26"),
        ],
    );
    held(
        "canada-federal",
        &[
            (2015, "01-01 04-03 05-18 07-01 09-07 10-12 11-11 12-25"),
            (2026, "01-01 04-03 05-18 07-01 09-07 09-30 10-12 11-11 12-25"),
        ],
    );
    held(
        "northern-ireland",
        &[
            (2015, "01-01 03-17 04-03 04-06 05-04 05-25 07-13 08-31 12-25 12-28"),
            (2027, "01-01 03-17 03-26 03-29 05-03 05-31 07-12 08-30 12-27 12-28"),
        ],
    );
    held("new-zealand", &[(2030, "01-01 01-02 02-06 04-19 04-22 04-25 06-03 06-21 10-28 12-25 12-26")]);
    held("india", &[(2015, "01-26 10-02"), (2030, "08-15 10-02")]);
    held(
        "euro-settlement",
        &[(2015, "01-01 04-03 04-06 05-01 12-25"), (2030, "01-01 04-19 04-22 05-01 12-25 12-26")],
    );
}

/// The closed weekdays of every covered year of every calendar, worked out from the laws apart from the rules here, or copied from
/// what is published: name, year, and the days as month-day.
const LISTS: [&str; 6] = [
    include_str!("closed_weekdays/europe.txt"),
    include_str!("closed_weekdays/americas.txt"),
    include_str!("closed_weekdays/africa.txt"),
    include_str!("closed_weekdays/asia.txt"),
    include_str!("closed_weekdays/oceania.txt"),
    include_str!("closed_weekdays/settlement.txt"),
];

#[test]
fn every_covered_year_of_every_calendar_is_as_its_list_says() {
    let mut listed = std::collections::BTreeSet::new();
    let mut wrong = Vec::new();
    for line in LISTS.iter().flat_map(|list| list.lines()) {
        let (name, rest) = line.split_once(' ').unwrap();
        let (year, days) = rest.split_once(' ').unwrap();
        let year: i32 = year.parse().unwrap();
        listed.insert((name, year));
        let found = closed_weekdays(name, year);
        if found != days {
            wrong.push(format!("{name} {year}\n  found {found}\n  list  {days}"));
        }
    }
    assert!(wrong.is_empty(), "{} years differ:\n{}", wrong.len(), wrong.join("\n"));
    let covered = SHIPPED.iter().flat_map(|shipped| {
        (shipped.covers().first()..=shipped.covers().last()).map(|year| (shipped.name(), year))
    });
    assert_eq!(listed, covered.collect());
}

/// Days that closed once, each with what it rests on, and no others.
#[test]
fn days_that_closed_once_name_what_they_stand_on() {
    let mut said = String::new();
    for shipped in SHIPPED {
        for rule in shipped.own_rules().unwrap() {
            for date in rule.occurrences().iter().filter_map(|way| way.only_date()) {
                let source =
                    rule.source().unwrap_or_else(|| panic!("{} {date} has no source", shipped.name()));
                assert!(source.len() > 10);
                if rule.occurrences().len() == 1 {
                    said += &format!("{} {date} {}\n", shipped.name(), rule.name());
                }
            }
        }
    }
    let equinoxes_and_the_rest =
        |line: &&str| !line.contains("Equinox") && !line.contains("(in place of Sunday)");
    let said: Vec<&str> = said.lines().filter(equinoxes_and_the_rest).collect();
    assert_eq!(said, ONE_OFFS.lines().collect::<Vec<_>>());
}

const ONE_OFFS: &str = "\
england-wales 2020-05-08 Early May bank holiday
england-wales 2022-06-02 Spring bank holiday
england-wales 2022-06-03 Platinum Jubilee bank holiday
england-wales 2022-09-19 State Funeral of Queen Elizabeth II
england-wales 2023-05-08 Coronation of King Charles III
germany 2017-10-31 Reformation Day
germany-berlin 2020-05-08 Day of Liberation from National Socialism
germany-berlin 2025-05-08 Day of Liberation from National Socialism
greece 2024-05-07 Labour Day
ireland 2022-03-18 Day of Remembrance and Recognition
latvia 2018-07-09 Close of the Song and Dance Festival
latvia 2023-07-10 Close of the Song and Dance Festival
latvia 2018-09-24 Visit of Pope Francis
latvia 2023-05-29 Bronze of the ice hockey team
northern-ireland 2020-05-08 Early May bank holiday
northern-ireland 2022-06-02 Spring bank holiday
northern-ireland 2022-06-03 Platinum Jubilee bank holiday
northern-ireland 2022-09-19 State Funeral of Queen Elizabeth II
northern-ireland 2023-05-08 Coronation of King Charles III
poland 2018-11-12 Centenary of independence
scotland 2020-05-08 Early May bank holiday
scotland 2022-06-02 Spring bank holiday
scotland 2022-06-03 Platinum Jubilee bank holiday
scotland 2022-09-19 State Funeral of Queen Elizabeth II
scotland 2023-05-08 Coronation of King Charles III
mexico 2018-12-01 Transfer of the Federal Executive Power
us-federal-with-closings 2018-12-05 National Day of Mourning
us-federal-with-closings 2018-12-24 Christmas Eve
us-federal-with-closings 2019-12-24 Christmas Eve
us-federal-with-closings 2020-12-24 Christmas Eve
us-federal-with-closings 2024-12-24 Christmas Eve
us-federal-with-closings 2025-01-09 National Day of Mourning
us-federal-with-closings 2025-12-24 Christmas Eve
us-federal-with-closings 2025-12-26 Day after Christmas
south-africa 2016-08-03 Municipal elections
south-africa 2016-12-27 Additional public holiday
south-africa 2019-05-08 National and provincial elections
south-africa 2021-11-01 Municipal elections
south-africa 2022-12-27 Additional public holiday
south-africa 2023-12-15 Victory in the Rugby World Cup
south-africa 2024-05-29 National and provincial elections
japan 2020-07-23 Marine Day
japan 2021-07-22 Marine Day
japan 2020-08-10 Mountain Day
japan 2021-08-08 Mountain Day
japan 2020-07-24 Sports Day
japan 2021-07-23 Sports Day
japan 2019-05-01 Accession to the Throne
japan 2019-10-22 Enthronement Ceremony
japan 2015-09-22 Citizens' Holiday
japan 2019-04-30 Citizens' Holiday
japan 2019-05-02 Citizens' Holiday
japan 2026-09-22 Citizens' Holiday
singapore 2020-07-10 Polling Day
singapore 2023-09-01 Polling Day
singapore 2025-05-03 Polling Day
australia 2022-09-22 National Day of Mourning
new-zealand 2022-09-26 Queen Elizabeth II Memorial Day
new-york-exchange 2018-12-05 National Day of Mourning
new-york-exchange 2025-01-09 National Day of Mourning
";

/// Trading days that end at 13:00, as the exchange listed them.
#[test]
fn half_days_of_the_exchange() {
    let calendar = named("new-york-exchange").unwrap().calendar().unwrap();
    for (year, days) in [
        (2015, "11-27 12-24"),
        (2016, "11-25"),
        (2017, "07-03 11-24"),
        (2018, "07-03 11-23 12-24"),
        (2019, "07-03 11-29 12-24"),
        (2020, "11-27 12-24"),
        (2021, "11-26"),
        (2022, "11-25"),
        (2023, "07-03 11-24"),
        (2024, "07-03 11-29 12-24"),
        (2025, "07-03 11-28 12-24"),
        (2026, "11-27 12-24"),
        (2027, "11-26"),
    ] {
        let range = DateRange::new(Date::new(year, 1, 1).unwrap(), Date::new(year, 12, 31).unwrap()).unwrap();
        let found: Vec<String> = calendar
            .half_days_in(range)
            .iter()
            .map(|date| format!("{:02}-{:02}", date.month(), date.day()))
            .collect();
        assert_eq!(found.join(" "), days, "{year}");
    }
}

/// Each source is resolved by itself before sources are put together.
#[test]
fn substitutes_of_one_calendar_never_move_on_because_of_another() {
    let days = Interval::between("2022-01-01".parse().unwrap(), "2022-01-09".parse().unwrap());
    let shipped = |name: &str| named(name).unwrap().calendar().unwrap();
    let (england, scotland) = (shipped("england-wales"), shipped("scotland"));
    let both =
        WorkCalendar::combined(Combination::ClosedIfAny, &[england.clone(), scotland.clone()]).unwrap();
    let count = |calendar: &WorkCalendar| calendar.count_working_days(days, Ends::FirstAndLast).unwrap();
    assert_eq!([&england, &scotland, &both].map(count), [4, 3, 3]);
    // A day closed by hand closes that day: 3 January 2022, which is closed already.
    let by_hand = HolidayRule::new("By hand", Occurrence::on_date("2022-01-03".parse().unwrap()));
    let by_hand = WorkCalendar::new("by hand", RestDays::NONE, 2015, 2030, &[by_hand]).unwrap();
    let with_it = WorkCalendar::combined(Combination::ClosedIfAny, &[england.clone(), by_hand]).unwrap();
    for number in days.start().day_number() - 365..days.end().day_number() + 365 {
        let date = Date::from_day_number(number).unwrap();
        assert_eq!(with_it.kind_of(date).unwrap().is_working(), england.kind_of(date).unwrap().is_working());
    }
    // Other rest days move no proclaimed day: those of 2022 stay on 3 January and on 26 and 27 December.
    let shop = england.counted_with("sunday, monday".parse().unwrap()).unwrap();
    assert_eq!(shop.holidays(), england.holidays());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// Closed if either is: the union of the two, day by day over the years that both cover; closed if both are: what they share.
    #[test]
    fn two_calendars_together_are_the_union_of_the_two(one in 0..SHIPPED.len(), other in 0..SHIPPED.len()) {
        let calendars = [&SHIPPED[one], &SHIPPED[other]].map(|shipped| shipped.calendar().unwrap());
        let years = SHIPPED[one].covers().overlap(SHIPPED[other].covers()).unwrap();
        let either = WorkCalendar::combined(Combination::ClosedIfAny, &calendars).unwrap();
        let both = WorkCalendar::combined(Combination::ClosedIfAll, &calendars).unwrap();
        prop_assert_eq!(either.covers(), Some(years));
        let first = Date::new(years.first(), 1, 1).unwrap().day_number();
        let last = Date::new(years.last(), 12, 31).unwrap().day_number();
        for number in first..=last {
            let date = Date::from_day_number(number).unwrap();
            let works = calendars.each_ref().map(|calendar| calendar.kind_of(date).unwrap().is_working());
            prop_assert_eq!(either.kind_of(date).unwrap().is_working(), works[0] && works[1], "{}", date);
            prop_assert_eq!(both.kind_of(date).unwrap().is_working(), works[0] || works[1], "{}", date);
        }
    }
}
