//! Columns give what the calls for one value give, however their rows are held.
#![allow(clippy::unwrap_used, clippy::expect_used)] // a test fails by panicking

use mild_ledger::column::{
    Cell, Column, ColumnSlice, ColumnSliceMut, Intervals, Texts, Validity, Values, add_working_days, ages,
    count_working_days, count_working_days_within, exact_into_buckets, field, first_days, into_buckets,
    iso_dates_into, labels_into, last_days, moved, moved_to_weekday, nearest_starts, next_anniversaries,
    numbers_in_month, period_days, period_labels_into, period_numbers, rates_per, rolled, rounded, shifted,
    shifted_by, shifted_into, stays_counted_to, worked_out, working_days_of_periods, year_month_day_into,
};
use mild_ledger::{
    AgingBuckets, Anniversaries, BucketMeasure, CalendarYears, Church, ClockUnit, CountRule, Date, DateField,
    DateMove, DateRange, DayCount, Decimal, Ends, ErrorKind, FiscalYear, HolidayRule, Interval, LabelPattern,
    MeanMonth, MonthEnd, NamedDay, Nearness, Occurrence, Operation, PeriodEdge, PeriodRule, Quotient,
    RestDays, Roll, Rounding, Shift, Tenure, Unit, WeekYear, Weekday, WeekdayMove, WorkCalendar, rate_per,
};
use proptest::prelude::*;

/// Rows as another user holds them: bits from anywhere in a byte, anything in the rows without a value, and some rows
/// that claim to hold a day beyond the calendar.
#[derive(Debug, Clone)]
struct Foreign {
    days: Vec<i32>,
    bits: Vec<u8>,
    offset: usize,
    /// What the rows mean.
    dates: Vec<Option<Date>>,
}

impl Foreign {
    fn slice(&self) -> ColumnSlice<'_, Date> {
        let validity = Validity::new(&self.bits, self.offset, self.days.len()).unwrap();
        ColumnSlice::new(&self.days, Some(validity)).unwrap()
    }

    fn owned(&self) -> Column<Date> {
        self.dates.iter().copied().collect()
    }
}

fn foreign(rows: impl Into<prop::collection::SizeRange>) -> impl Strategy<Value = Foreign> {
    let row = (-719_162..=2_932_896_i32, any::<i32>(), 0..10_u8);
    (prop::collection::vec(row, rows), 0..20_usize, any::<u8>()).prop_map(|(rows, offset, rest)| {
        let mut bits = vec![rest; (offset + rows.len()).div_ceil(8)];
        let (mut days, mut dates) = (Vec::new(), Vec::new());
        for (nth, (day, any, kind)) in rows.into_iter().enumerate() {
            // Seven in ten are dates, two are empty, one claims to hold any number at all.
            let (stored, claims) = match kind {
                0..7 => (day, true),
                7 | 8 => (any, false),
                _ => (any, true),
            };
            let bit = offset + nth;
            bits[bit / 8] = bits[bit / 8] & !(1 << (bit % 8)) | u8::from(claims) << (bit % 8);
            days.push(stored);
            dates.push(Date::from_day_number(stored).ok().filter(|_| claims));
        }
        Foreign { days, bits, offset, dates }
    })
}

fn date() -> impl Strategy<Value = Date> {
    (-719_162..=2_932_896).prop_map(|number| Date::from_day_number(number).unwrap())
}

/// Holds a column against what one value gives, row by row, and looks at what lies after the last row.
fn holds<T: Cell>(
    column: &Column<T>,
    expected: impl IntoIterator<Item = Option<T>>,
) -> Result<(), TestCaseError> {
    let expected: Vec<Option<T>> = expected.into_iter().collect();
    prop_assert_eq!(&column.iter().collect::<Vec<_>>(), &expected);
    prop_assert_eq!((column.len(), column.get(column.len())), (expected.len(), None));
    prop_assert_eq!(column.validity().valid_rows(), expected.iter().flatten().count());
    let all_bits: u32 = column.validity().bytes().iter().map(|byte| byte.count_ones()).sum();
    prop_assert_eq!(all_bits as usize, expected.iter().flatten().count());
    Ok(())
}

fn yard() -> WorkCalendar {
    let new_year = HolidayRule::new("New Year", Occurrence::on_day_of_year(1, 1).unwrap());
    let easter = HolidayRule::new("Easter Monday", Occurrence::from_easter(1, Church::Western).unwrap());
    WorkCalendar::builder("Yard", CalendarYears::of(1900, 2100)).holidays([new_year, easter]).build().unwrap()
}

/// Dates of which most lie in the years of [`yard`].
fn nearby(rows: impl Into<prop::collection::SizeRange>) -> impl Strategy<Value = Foreign> {
    foreign(rows).prop_map(|rows| {
        let near = |day: i32| day.rem_euclid(80_000) - 30_000;
        let days: Vec<i32> = rows.days.iter().map(|day| near(*day)).collect();
        let dates = days.iter().enumerate().map(|(row, day)| {
            let claims = Validity::new(&rows.bits, rows.offset, days.len()).unwrap().is_valid(row);
            Date::from_day_number(*day).ok().filter(|_| claims)
        });
        Foreign { dates: dates.collect(), days, ..rows }
    })
}

proptest! {
    #[test]
    fn counts_parts_and_fractions_agree(rows in (0..150_usize).prop_flat_map(|rows| (foreign(rows), foreign(rows), date())), weekday in 0..7_usize) {
        let (starts, ends, every) = rows;
        let owned = (starts.owned(), ends.owned());
        let pairs = |every: Option<Date>| -> Vec<Option<(Date, Date)>> {
            let ends = ends.dates.iter().map(|end| every.or(*end));
            starts.dates.iter().zip(ends).map(|(start, end)| start.zip(end)).collect()
        };
        let forms = [
            (Intervals::between(starts.slice(), ends.slice()).unwrap(), pairs(None)),
            (Intervals::between(&owned.0, &owned.1).unwrap(), pairs(None)),
            (Intervals::between(&owned.0, ends.slice()).unwrap(), pairs(None)),
            (Intervals::between(starts.slice(), every).unwrap(), pairs(Some(every))),
        ];
        let within = DateRange::days_from("2026-01-15".parse().unwrap(), 60).unwrap();
        for (form, pairs) in forms {
            for month_end in [MonthEnd::Clamp, MonthEnd::Keep, MonthEnd::NextStart] {
                for ends in [Ends::Last, Ends::FirstAndLast] {
                    let all = form.with_weeks_beginning(Weekday::ALL[weekday]).with_month_end(month_end).unwrap().with_ends(ends).unwrap();
                    let one = |pair: &Option<(Date, Date)>| pair.map(|(start, end)| {
                        let one = Interval::between(start, end).with_month_end(month_end).unwrap();
                        one.with_weeks_beginning(Weekday::ALL[weekday]).with_ends(ends).unwrap()
                    });
                    let each = || pairs.iter().map(one);
                    for rule in CountRule::all() {
                        holds(&all.count(rule), each().map(|one| one.map(|one| one.count(rule).value() as i32)))?;
                    }
                    holds(&all.parts(), each().map(|one| one.map(Interval::parts)))?;
                    let parts = all.parts();
                    let rows = pairs.len();
                    let (mut years, mut months, mut days, mut bits) = (vec![7; rows], vec![7; rows], vec![7; rows], vec![0xff; rows.div_ceil(8)]);
                    all.parts_into(&mut years, &mut months, &mut days, &mut bits).unwrap();
                    for row in 0..rows {
                        let three = parts.get(row).map(|parts| (parts.years() as i16, parts.months() as i8, parts.days() as i8));
                        let there = Validity::new(&bits, 0, rows).unwrap().is_valid(row);
                        prop_assert_eq!(three, there.then(|| (years[row], months[row], days[row])));
                    }
                    holds(&all.calendar_months(), each().map(|one| one.map(Interval::calendar_months)))?;
                    for unit in Unit::ALL {
                        holds(&all.fractional(unit), each().map(|one| one.map(|one| one.fractional(unit))))?;
                    }
                    for convention in DayCount::ALL.iter().copied() {
                        holds(&all.year_fraction(convention), each().map(|one| one.map(|one| one.year_fraction(convention))))?;
                    }
                    for mean in MeanMonth::ALL.iter().copied() {
                        holds(&all.mean_months(mean), each().map(|one| one.map(|one| one.mean_months(mean))))?;
                    }
                    for (row, one) in each().enumerate() {
                        prop_assert_eq!(all.get(row), one);
                    }
                    prop_assert_eq!(all.get(pairs.len()), None);
                }
            }
            for ends in Ends::ALL {
                let one = |pair: &Option<(Date, Date)>| pair.map(|(start, end)| Interval::between(start, end));
                holds(&form.days_counting(ends), pairs.iter().map(|pair| one(pair).map(|one| one.days_counting(ends).value() as i32)))?;
                holds(&form.days_within(within, ends), pairs.iter().map(|pair| one(pair).map(|one| one.days_within(within, ends))))?;
            }
        }
    }

    #[test]
    fn fields_periods_and_labels_agree(rows in foreign(0..200), weekday in 0..7_usize, month in 1..=12_u8) {
        let owned = rows.owned();
        let (mut years, mut months, mut days, mut bits) = (vec![1; owned.len()], vec![1; owned.len()], vec![1; owned.len()], vec![0; owned.len().div_ceil(8)]);
        year_month_day_into(rows.slice(), &mut years, &mut months, &mut days, &mut bits).unwrap();
        for (row, date) in rows.dates.iter().enumerate() {
            let there = Validity::new(&bits, 0, owned.len()).unwrap().is_valid(row);
            let found = there.then(|| (i32::from(years[row]), months[row], days[row]));
            prop_assert_eq!(found, date.map(Date::year_month_day));
        }
        let each = || rows.dates.iter().copied();
        let (fiscal, weeks) = (FiscalYear::starting(month, 6).unwrap(), WeekYear::iso());
        for form in [Values::from(&owned), rows.slice().into()] {
            for wanted in DateField::ALL.iter().copied() {
                holds(&field(form, wanted), each().map(|date| date.map(|date| date.field(wanted))))?;
            }
            for rule in PeriodRule::all(Weekday::ALL[weekday], fiscal, weeks) {
                let of = |date: Option<Date>| date.map(|date| rule.containing(date));
                holds(&first_days(form, rule), each().map(|date| of(date).and_then(|period| period.first_day().ok())))?;
                holds(&last_days(form, rule), each().map(|date| of(date).and_then(|period| period.last_day().ok())))?;
                holds(&period_numbers(form, rule), each().map(|date| of(date).map(|period| period.number())))?;
                holds(&period_days(form, rule), each().map(|date| of(date).map(|period| period.days())))?;
                for nearness in Nearness::ALL.iter().copied() {
                    let nearest = |date: Date| rule.containing(date).nearest_start(date, nearness).ok();
                    holds(&nearest_starts(form, rule, nearness), each().map(|date| date.and_then(nearest)))?;
                }
                let mut labels = Texts::default();
                period_labels_into(form, rule, &mut labels);
                for (row, date) in each().enumerate() {
                    prop_assert_eq!(labels.get(row).map(str::to_owned), Some(of(date).map_or_else(String::new, |period| period.label())));
                }
            }
            let pattern: LabelPattern = "{fiscal_quarter} %b %G-%V".parse().unwrap_or_else(|_| "%Y %b {fiscal_quarter}".parse().unwrap());
            let mut labels = Texts::default();
            labels_into(form, &pattern, fiscal, &mut labels);
            let mut iso = Texts::default();
            iso_dates_into(rows.slice(), &mut iso);
            for (row, date) in each().enumerate() {
                prop_assert_eq!(labels.get(row).map(str::to_owned), Some(date.map_or_else(String::new, |date| pattern.write(date, fiscal))));
                prop_assert_eq!(iso.get(row).map(str::to_owned), Some(date.map_or_else(String::new, |date| date.to_string())));
            }
        }
    }

    #[test]
    fn moves_agree_near_and_far(
        rows in foreign(0..200), months in prop_oneof![-500..500_i32, -40_000..40_000_i32, any::<i32>()],
        days in prop_oneof![Just(0), -500..500_i32, any::<i32>()], weekday in 0..7_usize,
    ) {
        let owned = rows.owned();
        let each = || rows.dates.iter().copied();
        // The memory of a column that is there is used again, whatever it held.
        let mut room: Column<Date> = std::iter::repeat_n(Some(Date::MAX), 130).collect();
        for rule in MonthEnd::ALL {
            let shift = Shift::months(months).and(Shift::days(days)).unwrap().with_month_end(rule);
            let expected = || each().map(|date| date.and_then(|date| shift.apply(date).ok()));
            shifted_into(rows.slice(), &shift, room.rows_to_write(rows.days.len())).unwrap();
            holds(&room, expected())?;
            holds(&shifted(&owned, &shift), expected())?;
            let times: Column<i32> = each().map(|date| date.map(|date| date.day_number() % 40)).collect();
            let by_row = |(date, times): (Option<Date>, Option<i32>)| shift.times(times?).ok()?.apply(date?).ok();
            holds(&shifted_by(rows.slice(), &times, &shift).unwrap(), each().zip(times.iter()).map(by_row))?;
        }
        let by_clock = Shift::of_clock(1, ClockUnit::Hour);
        prop_assert_eq!(shifted(&owned, &by_clock).validity().valid_rows(), 0);
        let weekday = Weekday::ALL[weekday];
        for to in [WeekdayMove::OnOrAfter(weekday), WeekdayMove::After(weekday), WeekdayMove::OnOrBefore(weekday), WeekdayMove::Before(weekday)] {
            holds(&moved_to_weekday(rows.slice(), to), each().map(|date| to.apply(date?).ok()))?;
        }
        let by = DateMove::by(Shift::days(days)).to_edge(PeriodEdge::end_of(PeriodRule::Quarter));
        holds(&moved(rows.slice(), &by, None), each().map(|date| by.apply(date?, None).ok()))?;
    }

    #[test]
    fn working_days_agree(rows in (0..150_usize).prop_flat_map(|rows| (nearby(rows), nearby(rows))), number in prop_oneof![-30..30_i32, any::<i32>()]) {
        let (starts, ends) = rows;
        let owned = (starts.owned(), ends.owned());
        let week = WorkCalendar::rest_days_only(RestDays::default());
        let within = DateRange::calendar_months("2026-04-01".parse().unwrap(), 3).unwrap();
        for calendar in [yard(), week] {
            let pairs = || starts.dates.iter().zip(&ends.dates).map(|(start, end)| Some(Interval::between((*start)?, (*end)?)));
            for counted in Ends::ALL {
                let expected = || pairs().map(|pair| calendar.count_working_days(pair?, counted).ok().map(|count| count as i32));
                holds(&count_working_days(starts.slice(), ends.slice(), &calendar, counted).unwrap(), expected())?;
                holds(&count_working_days(&owned.0, &owned.1, &calendar, counted).unwrap(), expected())?;
                let inside = pairs().map(|pair| calendar.working_days_within(pair?, within, counted).ok());
                holds(&count_working_days_within(starts.slice(), &owned.1, within, &calendar, counted).unwrap(), inside)?;
            }
            let each = || starts.dates.iter().copied();
            holds(&add_working_days(starts.slice(), number, &calendar).unwrap(), each().map(|date| calendar.add_working_days(date?, number).ok()))?;
            let numbers: Column<i32> = ends.dates.iter().map(|date| date.map(|date| date.day_number() % 50)).collect();
            let by_row = |(date, number): (Option<Date>, Option<i32>)| calendar.add_working_days(date?, number?).ok();
            holds(&add_working_days(&owned.0, &numbers, &calendar).unwrap(), each().zip(numbers.iter()).map(by_row))?;
            for roll in Roll::ALL.iter().copied() {
                holds(&rolled(starts.slice(), roll, &calendar), each().map(|date| calendar.roll(date?, roll).ok()))?;
            }
            let found = numbers_in_month(starts.slice(), &calendar);
            let one = |date: Option<Date>| calendar.number_in_month(date?).ok()?;
            holds(&found.from_start, each().map(|date| one(date).map(|number| number.from_start())))?;
            holds(&found.from_end, each().map(|date| one(date).map(|number| number.from_end())))?;
            for nth in [-3, 1, 22, 25] {
                let one = |date: Option<Date>| calendar.working_day_of(&PeriodRule::Month.containing(date?), nth).ok();
                holds(&working_days_of_periods(starts.slice(), PeriodRule::Month, nth, &calendar), each().map(one))?;
            }
        }
    }

    #[test]
    fn people_buckets_and_numbers_agree(rows in (0..100_usize).prop_flat_map(|rows| (nearby(rows), nearby(rows))), as_of in -20_000..30_000_i32, over in -50..50_i64) {
        let (starts, ends) = rows;
        let as_of = Date::from_day_number(as_of).unwrap();
        let pairs = || starts.dates.iter().copied().zip(ends.dates.iter().copied());
        for rule in [MonthEnd::Clamp, MonthEnd::NextStart] {
            let of = |start: Date| Anniversaries::of(start).with_leap_day(rule).unwrap();
            let found = ages(starts.slice(), ends.slice(), rule).unwrap();
            holds(&found, pairs().map(|(born, on)| of(born?).age_on(on?).ok().map(|age| age.value() as i32)))?;
            let next = next_anniversaries(starts.slice(), ends.slice(), rule).unwrap();
            let one = |(start, on): (Option<Date>, Option<Date>)| of(start?).next_on_or_after(on?).ok();
            holds(&next.dates, pairs().map(|pair| one(pair).map(|next| next.date())))?;
            holds(&next.numbers, pairs().map(|pair| one(pair).map(|next| next.number())))?;
        }
        let to = stays_counted_to(starts.slice(), ends.slice(), as_of).unwrap();
        let stay = |(start, end): (Option<Date>, Option<Date>)| {
            let stay = Tenure::from(start?);
            end.map_or(stay, |end| stay.until(end)).as_of(as_of).ok()
        };
        holds(&to, pairs().map(|pair| stay(pair).map(Interval::end)))?;
        let months = Intervals::between(starts.slice(), &to).unwrap().fractional(Unit::Month);
        let smallest: Decimal = "1.5".parse().unwrap();
        let quantity = Quotient::from(Decimal::from(over));
        let rates = rates_per(quantity, &months, Some(smallest)).unwrap();
        let rate = |pair| rate_per(quantity, stay(pair)?.fractional(Unit::Month), Some(smallest)).ok();
        holds(&rates, pairs().map(rate))?;
        for operation in Operation::ALL.iter().copied() {
            let found = worked_out(operation, &rates, quantity).unwrap();
            holds(&found, rates.iter().map(|rate| operation.of(rate?, quantity).ok()))?;
        }
        for rounding in Rounding::ALL.iter().copied() {
            let one = |rate: Option<Quotient>| Some(rate?.to_decimal(3, rounding).ok()?.units());
            holds(&rounded(&rates, 3, rounding).unwrap(), rates.iter().map(one))?;
        }
        let buckets = AgingBuckets::from_upper_edges(&[-30, 0, 30], BucketMeasure::WholeNumber).unwrap();
        let days = Intervals::between(starts.slice(), ends.slice()).unwrap().count(CountRule::DAYS);
        holds(&into_buckets(&days, &buckets), days.iter().map(|days| days.map(|days| buckets.bucket_of(days.into()) as u16)))?;
        holds(&exact_into_buckets(&rates, &buckets), rates.iter().map(|rate| rate.map(|rate| buckets.bucket_of_exact(rate) as u16)))?;
    }

    #[test]
    fn columns_come_apart_and_together_again(rows in foreign(0..200)) {
        let column = rows.owned();
        let (values, bits) = column.clone().into_parts();
        prop_assert_eq!(Column::<Date>::from_parts(values.clone(), Some(bits.clone())).unwrap(), column);
        // A bitmap that is longer than it need be, with anything after the last row.
        let longer: Vec<u8> = bits.iter().copied().chain([0xff, 0xff]).collect();
        let again = Column::<Date>::from_parts(values, Some(longer)).unwrap();
        holds(&again, rows.dates.iter().copied())?;
        prop_assert_eq!(again.into_iter().collect::<Column<Date>>(), rows.owned());
        // What claims to be a date and is none is refused, never turned into one.
        let claims: Vec<u8> = (0..rows.days.len().div_ceil(8)).map(|byte| {
            (0..8).fold(0, |bits, bit| bits | u8::from(rows.slice().validity().unwrap().is_valid(8 * byte + bit)) << bit)
        }).collect();
        let is_sound = rows.days.iter().enumerate().all(|(row, day)| claims[row / 8] >> (row % 8) & 1 == 0 || Date::from_day_number(*day).is_ok());
        prop_assert_eq!(Column::<Date>::from_parts(rows.days, Some(claims)).is_ok(), is_sound);
    }
}

#[test]
fn more_rows_than_a_block_and_than_the_days_of_a_calendar() {
    let yard = yard();
    let days: Vec<i32> = (0..200_000).map(|row| row * 7 % 90_000 - 30_000).collect();
    let slice = ColumnSlice::<Date>::new(&days, None).unwrap();
    let found = add_working_days(slice, 5, &yard).unwrap();
    let months = shifted(slice, &Shift::months(1));
    for (row, day) in days.iter().enumerate().step_by(97) {
        let date = Date::from_day_number(*day).unwrap();
        assert_eq!(found.get(row), yard.add_working_days(date, 5).ok(), "{date}");
        assert_eq!(months.get(row), Shift::months(1).apply(date).ok(), "{date}");
    }
    assert!(found.validity().valid_rows() < found.len());
}

#[test]
fn columns_of_different_lengths_are_refused() {
    let (one, two): (Column<Date>, Column<Date>) =
        ([Some(Date::MIN)].into_iter().collect(), [Some(Date::MIN), None].into_iter().collect());
    let kinds = [
        Intervals::between(&one, &two).map(|_| ()),
        shifted_into(&two, &Shift::days(1), Column::new().rows_to_write(3)),
        count_working_days(&two, &one, &yard(), Ends::Last).map(|_| ()),
        ages(&two, &one, MonthEnd::Clamp).map(|_| ()),
        ColumnSliceMut::<Date>::new(&mut [0; 9], &mut [0; 3]).map(|_| ()),
    ];
    for refused in kinds {
        assert_eq!(refused.unwrap_err().kind(), ErrorKind::LengthsDiffer);
    }
}

#[test]
fn ends_that_are_for_days_are_refused_for_other_units() {
    let one = Intervals::between(Date::MIN, Date::MAX).unwrap();
    for ends in [Ends::First, Ends::Neither] {
        assert_eq!(one.with_ends(ends).unwrap_err().kind(), ErrorKind::NotAllowed);
        assert_eq!(
            Interval::between(Date::MIN, Date::MAX).with_ends(ends).unwrap_err().kind(),
            ErrorKind::NotAllowed
        );
    }
    assert_eq!(one.with_month_end(MonthEnd::Refuse).unwrap_err().kind(), ErrorKind::NotAllowed);
}

#[test]
fn two_single_values_make_one_row() {
    let one = Intervals::between(Date::MIN, Date::MAX).unwrap();
    assert_eq!((one.rows(), one.get(0).map(Interval::end), one.get(1)), (1, Some(Date::MAX), None));
    assert_eq!(one.count(CountRule::DAYS).len(), 1);
    let day: NamedDay = "start of this month".parse().unwrap();
    let first = day.seen_from("2026-09-30".parse().unwrap()).unwrap();
    assert_eq!(field(first, DateField::Month).get(0), Some(9));
    assert_eq!(shifted(first, &Shift::months(1)).get(0), Some("2026-10-01".parse().unwrap()));
}

#[test]
fn at_the_ends_of_the_calendar_no_row_wraps() {
    let ends: Column<Date> = [Some(Date::MIN), Some(Date::MAX), None].into_iter().collect();
    let monday = last_days(&ends, PeriodRule::Week(Weekday::Monday));
    assert_eq!((monday.get(0), monday.get(1)), (Some("0001-01-07".parse().unwrap()), None));
    let sunday = first_days(&ends, PeriodRule::Week(Weekday::Sunday));
    assert_eq!((sunday.get(0), sunday.get(1)), (None, Some("9999-12-26".parse().unwrap())));
    // A day on the way may leave the calendar.
    let there_and_back = Shift::months(12).and(Shift::days(-366)).unwrap();
    assert_eq!(shifted(&ends, &there_and_back).get(1), Some(Date::MAX));
    assert_eq!(shifted(&ends, &Shift::months(i32::MAX)).validity().valid_rows(), 0);
    let through = Intervals::between(Date::MIN, Date::MAX).unwrap().with_ends(Ends::FirstAndLast).unwrap();
    assert_eq!(through.count(CountRule::COMPLETE_YEARS).get(0), Some(9_999));
    assert_eq!(through.parts().get(0).unwrap().to_string(), "9999 years");
}
