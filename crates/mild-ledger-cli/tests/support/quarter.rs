//! A quarter-end of receivables in three currencies: invoices, credit notes and payments, the same ledger as in the library's tests,
//! every figure of which was worked out by hand.

use super::Desk;

/// A plan that ages it.
pub const PLAN: &str = r#"plan  = 1
title = "Quarter end"
as_of = 2026-09-30

[records]
file    = "invoices.csv"
key     = "Invoice"
duplicates = "set aside"

[records.dates]
Issued = "iso"

[records.amounts]
Amount = { decimals = 2, currency = "Currency" }

[[join]]
file    = "payments.csv"
match   = { Invoice = "Invoice", Currency = "Currency" }
columns   = { "Paid so far" = "Paid" }
duplicates = { sum_up_to_as_of = "Date" }

[join.dates]
Date = "iso"

[join.amounts]
Paid = { decimals = 2, currency = "Currency" }

[[column]]
name  = "Due"
from  = "Issued"
terms = { column = "Terms" }

[[column]]
name    = "Days overdue"
between = ["Due", "as-of"]
count   = "days"

[[column]]
name   = "Age band"
bucket = "Days overdue"
edges  = [0, 30, 60, 90]

[[report]]
kind     = "aging"
band     = "Age band"
amount   = "Amount"
issued   = "Issued"
payments = "Paid so far"

[output]
rows       = "rows.csv"
exceptions = "exceptions.csv"
"#;

pub const INVOICES: &str = "Invoice,Currency,Issued,Terms,Amount
Q1,EUR,2026-03-31,net 30,1200.00
Q2,EUR,2026-04-15,net 30,800.50
Q3,EUR,2026-05-20,net 30 EOM,450.25
Q4,EUR,2026-06-01,net 60,2000.00
Q5,EUR,2026-06-30,net 30,310.00
Q6,EUR,2026-07-31,15 prox,990.00
Q7,EUR,2026-08-31,net 30,75.75
Q8,EUR,2026-09-30,net 30,640.00
Q9,EUR,2026-10-01,net 30,500.00
Q10,EUR,2026-08-10,COD,-120.00
Q11,GBP,2026-05-31,net 30 to EOM,1500.00
Q12,GBP,2026-06-15,net 30,260.40
Q13,GBP,2026-07-01,net 30,333.33
Q14,GBP,2026-07-02,net 60,333.33
Q15,GBP,2026-09-01,net 30,333.34
Q16,GBP,2026-09-15,COD,88.00
Q17,USD,2026-02-28,net 30,5000.00
Q18,USD,2026-06-29,net 90,700.00
Q19,USD,2026-07-02,net 90,700.00
Q20,USD,2026-09-29,COD,-50.00
";

pub const PAYMENTS: &str = "Invoice,Currency,Date,Paid
Q17,USD,2026-08-01,-500.00
Q1,EUR,2026-04-30,700.00
Q1,EUR,2026-09-15,500.00
Q2,EUR,2026-05-15,800.50
Q3,EUR,2026-07-15,400.00
Q4,EUR,2026-07-31,2100.00
Q7,EUR,2026-10-01,75.75
Q11,GBP,2026-07-30,1500.00
Q12,GBP,2026-06-30,60.40
Q12,GBP,2026-08-14,200.00
Q17,USD,2026-03-30,2500.00
Q17,USD,2026-07-10,2000.00
";

/// A desk with the plan and the files.
pub fn quarter_desk() -> Desk {
    let desk = Desk::new();
    desk.write("plan.toml", PLAN);
    desk.write("invoices.csv", INVOICES);
    desk.write("payments.csv", PAYMENTS);
    desk
}
