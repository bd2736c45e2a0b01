//! A real server, read by plans.

use super::server::Server;
use crate::{Plan, RecordsError, RunRequest, Watch, run};
use std::fs;
use std::path::Path;
use std::process::Command;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

/// The rows that a plan writes of a server's table, or its error.
fn rows_of(server: &Server, more: &str) -> Result<String, RecordsError> {
    let text = PLAN.replace("\"FILE\"", &format!("\"{}\"\n{more}", server.address()));
    rows(server.folder.path(), &text)
}

fn rows(folder: &Path, plan: &str) -> Result<String, RecordsError> {
    let plan = Plan::of_text(plan, &folder.join("plan.toml"))?;
    let request = RunRequest::new().with_existing(crate::ExistingFiles::Overwrite);
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    run(&plan, &request, watch)?;
    Ok(fs::read_to_string(folder.join("rows.csv")).unwrap())
}

const PLAN: &str = r#"plan = 1
as_of = 2026-09-30
[records]
file = "FILE"
key = "Invoice"
repeats = "set aside"
[records.dates]
Made = { written = "iso", zone = "Europe/London" }
[records.amounts]
Amount = { decimals = 2 }
[records.numbers]
Hours = { decimals = 2 }
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
"#;

const TABLE: &str = r#"CREATE TABLE invoices ("Invoice" text PRIMARY KEY, "Issued" date, "Made" timestamptz, "Clock" timestamp, "Amount" numeric(20,2), "Hours" float8, "Note" text);
INSERT INTO invoices VALUES
 ('A1', '2026-09-30', '2026-06-30T23:30Z', '2026-06-30T23:30', 10.5, 0.1::float8 + 0.2, NULL),
 ('A2', NULL, NULL, NULL, -0.30, NULL, 'a "quote", and
a line'),
 ('A3', '2024-02-29', '2026-03-29T00:30Z', '2026-03-29T00:30', 7, 2, '=1+1');
CREATE TABLE loose (a text); INSERT INTO loose VALUES (NULL), ('x');
CREATE TABLE "x""; DROP TABLE invoices; --" ("Invoice" text PRIMARY KEY);"#;

/// One server for all, which takes its time to start; each part says what it is about.
#[test]
fn a_server_is_read_as_a_file_is() {
    let Some(server) = Server::start() else { return };
    server.connected().unwrap().batch_execute(TABLE).unwrap();
    let folder = server.folder.path().to_owned();

    // Without its password, and with one in the address, nothing is read, and no password is shown.
    let refused = rows_of(&server, "table = \"invoices\"").unwrap_err().to_string();
    assert!(refused.contains("password"), "{refused}");
    let text = PLAN.replace("FILE", &server.address().replace("clerk@", "clerk:harbour:bell@"));
    let told = rows(&folder, &text).unwrap_err().to_string();
    assert!(told.contains("the address of the server holds a password") && !told.contains("bell"), "{told}");

    let of_server = |more: &str| rows_of(&server, more);
    let process = server.process.id();
    server.with_password_file(|| {
        // A table gives what the same rows give as CSV; instants become the days of a zone.
        let csv = "Invoice,Issued,Made,Clock,Amount,Hours,Note\nA1,2026-09-30,2026-06-30T23:30Z,2026-06-30T23:30,10.5,0.3,\nA2,,,,-0.30,,\"a \"\"quote\"\", and\na line\"\nA3,2024-02-29,2026-03-29T00:30Z,2026-03-29T00:30,7,2,=1+1\n";
        fs::write(folder.join("same.csv"), csv).unwrap();
        let typed = "[records.dates]\nIssued = \"iso\"\nClock = { written = \"iso\", time = \"keep\" }";
        let as_csv =
            rows(&folder, &PLAN.replace("FILE", "same.csv").replace("[records.dates]", typed)).unwrap();
        assert_eq!(of_server("table = \"invoices\"").unwrap(), as_csv);
        assert!(as_csv.contains("A1,2026-09-30,2026-07-01,2026-06-30T23:30:00,10.50,0.30,\n"), "{as_csv}");
        assert_eq!(of_server("table = \"public.invoices\"").unwrap(), as_csv);
        let query = "query = 'SELECT * FROM invoices ORDER BY \"Invoice\" -- in order'";
        assert_eq!(of_server(query).unwrap(), as_csv);

        // A server is a second file too.
        let fetched = format!(
            "plan = 1\n[records]\nfile = \"same.csv\"\n[[fetch]]\nfile = \"{}\"\ntable = \"invoices\"\nmatch = {{ Invoice = \"Invoice\" }}\nbring = {{ \"Their day\" = \"Issued\" }}\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\ncolumns = [\"Invoice\", \"Their day\"]\n",
            server.address()
        );
        assert_eq!(rows(&folder, &fetched).unwrap(), "Invoice,Their day\nA1,2026-09-30\nA2,\nA3,2024-02-29\n");
        let told = rows(&folder, &fetched.replace("clerk@", "clerk:harbour:bell@")).unwrap_err().to_string();
        assert!(told.contains("holds a password") && !told.contains("bell"), "{told}");

        // Names are never run, and queries only read.
        let strange = of_server("table = 'x\"; DROP TABLE invoices; --'").unwrap_err().to_string();
        assert!(strange.contains("there is no column \"Made\""), "{strange}");
        for (said, error) in [
            ("table = \"nowhere\"", "there is no table \"nowhere\" on the server"),
            ("table = \"loose\"", "has no primary key"),
            ("", "does not say what is read from the server"),
            ("query = \"SELECT 1\"", "has no order"),
            ("query = \"SELECT 1 -- ORDER BY 1\"", "has no order"),
            (
                "query = \"WITH gone AS (DELETE FROM invoices RETURNING *) SELECT * FROM gone ORDER BY 1\"",
                "read-only transaction",
            ),
            ("query = \"SELECT 1 / (3 - g) AS a FROM generate_series(1, 9) g ORDER BY g\"", "division by zero"),
            ("query = \"SELECT 1 ORDER BY 1) TO PROGRAM 'touch /tmp/x' --\"", "syntax error"),
            ("query = \"SELECT 1 ORDER BY 1; DROP TABLE invoices\"", "multiple commands"),
        ] {
            let found = of_server(said).unwrap_err().to_string();
            assert!(found.contains(error), "{said}: {found}");
        }
        assert_eq!(of_server("table = \"invoices\"").unwrap(), as_csv, "nothing was changed");

        // A column of nothing has rows all the same.
        let one = PLAN
            .split("[records.dates]")
            .next()
            .unwrap()
            .replace("key = \"Invoice\"\nrepeats = \"set aside\"\n", "");
        let one = one.replace(
            "\"FILE\"",
            &format!("\"{}\"\nquery = \"SELECT a FROM loose ORDER BY a NULLS FIRST\"", server.address()),
        );
        let one = format!("{one}[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n");
        assert_eq!(rows(&folder, &one).unwrap(), "a\n\"\"\nx\n");

        // An interruption ends a query that gives no row, on the server too.
        let endless = PLAN.replace(
            "\"FILE\"",
            &format!("\"{}\"\nquery = \"SELECT 'A1' AS \\\"Invoice\\\", pg_sleep(600)::text ORDER BY 1\"", server.address()),
        );
        let endless = endless.split("[records.dates]").next().unwrap();
        let endless = format!("{endless}[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n");
        let plan = Plan::of_text(&endless, &folder.join("plan.toml")).unwrap();
        let interrupted = AtomicBool::new(false);
        let began = Instant::now();
        let error = std::thread::scope(|scope| {
            scope.spawn(|| {
                std::thread::sleep(Duration::from_millis(700));
                interrupted.store(true, Ordering::Relaxed);
            });
            let request = RunRequest::new().with_existing(crate::ExistingFiles::Overwrite);
            run(&plan, &request, Watch { interrupted: &interrupted, progress: &|_| {} }).unwrap_err()
        });
        assert!(matches!(error, RecordsError::Interrupted), "{error}");
        assert!(began.elapsed() < Duration::from_secs(60));
        let working = || {
            let sql = "SELECT count(*) FROM pg_stat_activity WHERE state = 'active' AND query LIKE '%pg_sleep(600)%' AND pid <> pg_backend_pid()";
            server.connected().unwrap().query_one(sql, &[]).unwrap().get::<_, i64>(0)
        };
        while working() > 0 {
            assert!(began.elapsed() < Duration::from_secs(60), "the server still works on the query");
            std::thread::sleep(Duration::from_millis(50));
        }

        // A server that goes away in the middle leaves nothing half-written.
        let before = fs::read(folder.join("rows.csv")).unwrap();
        let slow = "query = 'SELECT g::text AS \"Invoice\", NULL AS \"Made\", 1 AS \"Amount\", 1 AS \"Hours\", pg_sleep(0.0005)::text FROM generate_series(1, 100000) g ORDER BY g'";
        let killer = std::thread::spawn(move || {
            std::thread::sleep(Duration::from_millis(1_500));
            Command::new("kill").args(["-QUIT", &process.to_string()]).status()
        });
        let gone = of_server(slow).unwrap_err().to_string();
        assert!(gone.contains("could not read it"), "{gone}");
        assert!(killer.join().unwrap().is_ok());
        assert_eq!(fs::read(folder.join("rows.csv")).unwrap(), before);
        let missing = of_server("table = \"invoices\"").unwrap_err().to_string();
        assert!(missing.contains("could not read it"), "{missing}");
    });
}
