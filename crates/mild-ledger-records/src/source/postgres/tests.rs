//! A real server, read by plans; and servers that ask for what they must not have.

use super::environment::{LOGIN_METHODS, PASSWORD, ROOT_CERTIFICATES, with_variables};
use super::server::Server;
use crate::{Plan, RecordsError, RunRequest, Watch, run};
use std::fs;
use std::io::{Read, Write};
use std::net::TcpListener;
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
duplicates = "set aside"
[records.dates]
Made = { pattern = "iso", zone = "Europe/London" }
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
    // Another test may have a password in its environment.
    let refused = with_variables(&[], || rows_of(&server, "table = \"invoices\""));
    let refused = refused.unwrap_err().to_string();
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
        let typed = "[records.dates]\nIssued = \"iso\"\nClock = { pattern = \"iso\", time = \"keep\" }";
        let as_csv =
            rows(&folder, &PLAN.replace("FILE", "same.csv").replace("[records.dates]", typed)).unwrap();
        assert_eq!(of_server("table = \"invoices\"").unwrap(), as_csv);
        assert!(as_csv.contains("A1,2026-09-30,2026-07-01,2026-06-30T23:30:00,10.50,0.30,\n"), "{as_csv}");
        assert_eq!(of_server("table = \"public.invoices\"").unwrap(), as_csv);
        let query = "query = 'SELECT * FROM invoices ORDER BY \"Invoice\" -- in order'";
        assert_eq!(of_server(query).unwrap(), as_csv);

        // A server is a second file too.
        let joined = format!(
            "plan = 1\n[records]\nfile = \"same.csv\"\n[[join]]\nfile = \"{}\"\ntable = \"invoices\"\nmatch = {{ Invoice = \"Invoice\" }}\ncolumns = {{ \"Their day\" = \"Issued\" }}\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\ncolumns = [\"Invoice\", \"Their day\"]\n",
            server.address()
        );
        assert_eq!(rows(&folder, &joined).unwrap(), "Invoice,Their day\nA1,2026-09-30\nA2,\nA3,2024-02-29\n");
        let told = rows(&folder, &joined.replace("clerk@", "clerk:harbour:bell@")).unwrap_err().to_string();
        assert!(told.contains("holds a password") && !told.contains("bell"), "{told}");

        // Names are never run, and queries only read.
        let strange = of_server("table = 'x\"; DROP TABLE invoices; --'").unwrap_err().to_string();
        assert!(strange.contains("there is no column \"Made\""), "{strange}");
        for (said, error) in [
            ("table = \"nowhere\"", "there is no table \"nowhere\" on the server"),
            ("table = \"loose\"", "has no primary key"),
            ("", "the plan names neither a table of the server nor a query"),
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
            .replace("key = \"Invoice\"\nduplicates = \"set aside\"\n", "");
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

        encrypted_where_the_address_asks_for_it(&server);

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

/// What one query gives, as the rows of a plan.
fn answer_to(folder: &Path, address: &str, query: &str) -> Result<String, RecordsError> {
    let plan = format!(
        "plan = 1\n[records]\nfile = \"{address}\"\nquery = \"{query}\"\n[output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n"
    );
    rows(folder, &plan)
}

const IS_ENCRYPTED: &str =
    "SELECT ssl::text AS answer FROM pg_stat_ssl WHERE pid = pg_backend_pid() ORDER BY 1";

fn encrypted_where_the_address_asks_for_it(server: &Server) {
    let folder = server.folder.path();
    let port = server.port;
    let asked = |host: &str, query: &str| {
        let address = format!("postgresql://clerk@{host}:{port}/postgres?hostaddr=127.0.0.1{query}");
        answer_to(folder, &address, IS_ENCRYPTED).map_err(|error| error.to_string())
    };
    // The default between programs of one machine.
    assert_eq!(asked("localhost", "").unwrap(), "answer\nfalse\n");
    // No root of this machine has made the certificate.
    let unknown = asked("yard.example", "&sslmode=require").unwrap_err();
    assert!(unknown.contains("certificate"), "{unknown}");
}

/// The same server with the variables that name a certificate and a method of login.
#[test]
fn a_server_is_known_by_its_certificate() {
    let Some(server) = Server::start() else { return };
    server.connected().unwrap().batch_execute("CREATE DATABASE clear").unwrap();
    let folder = server.folder.path();
    let port = server.port;
    let asked = |host: &str, database: &str, query: &str| {
        let address = format!("postgresql://clerk@{host}:{port}/{database}?hostaddr=127.0.0.1{query}");
        answer_to(folder, &address, IS_ENCRYPTED).map_err(|error| error.to_string())
    };
    let root = server.root_certificate().into_os_string();
    server.with_password_file_and(&[(ROOT_CERTIFICATES, root.clone())], || {
        assert_eq!(asked("yard.example", "postgres", "&sslmode=require").unwrap(), "answer\ntrue\n");
        // A certificate for another name, and a connection to the address that has none.
        let other = asked("boats.example", "postgres", "&sslmode=require").unwrap_err();
        assert!(other.contains("not valid for name"), "{other}");
        let plain = format!("postgresql://clerk@127.0.0.1:{port}/postgres?sslmode=require");
        let by_address = answer_to(folder, &plain, IS_ENCRYPTED).unwrap_err().to_string();
        assert!(by_address.contains("not valid for name"), "{by_address}");
        // Encrypted or not, the password is not given away.
        for query in ["&sslmode=require", ""] {
            let clear = asked("yard.example", "clear", query).unwrap_err();
            assert!(
                clear.contains("asks for the password in clear text") && clear.contains(LOGIN_METHODS),
                "{clear}"
            );
        }
    });
    let by_name = [(ROOT_CERTIFICATES, root), (LOGIN_METHODS, "password".into())];
    server.with_password_file_and(&by_name, || {
        assert_eq!(asked("yard.example", "clear", "&sslmode=require").unwrap(), "answer\ntrue\n");
        let scram = asked("yard.example", "postgres", "&sslmode=require").unwrap_err();
        assert!(scram.contains("offers SCRAM"), "{scram}");
    });
    let empty = folder.join("empty.pem");
    fs::write(&empty, "nothing\n").unwrap();
    server.with_password_file_and(&[(ROOT_CERTIFICATES, empty.into_os_string())], || {
        let none = asked("yard.example", "postgres", "&sslmode=require").unwrap_err();
        assert!(none.contains("no certificate that a server can be checked by"), "{none}");
    });
    // A file that is cut inside its second certificate is not a reason to trust the first alone.
    let cut = folder.join("cut.pem");
    let whole = fs::read_to_string(server.root_certificate()).unwrap();
    fs::write(&cut, format!("{whole}-----BEGIN CERTIFICATE-----\nMIIB\n")).unwrap();
    server.with_password_file_and(&[(ROOT_CERTIFICATES, cut.into_os_string())], || {
        let broken = asked("yard.example", "postgres", "&sslmode=require").unwrap_err();
        assert!(broken.contains("holds a certificate that cannot be read"), "{broken}");
    });
}

/// What a server of the test is sent when it answers each message with one of these, and the error of the run.
fn stand_in(query: &str, answers: &'static [&'static [u8]]) -> (Vec<u8>, String) {
    let listener = TcpListener::bind("127.0.0.1:0").unwrap();
    let port = listener.local_addr().unwrap().port();
    let server = std::thread::spawn(move || {
        let (mut stream, _) = listener.accept().unwrap();
        let (mut sent, mut buffer) = (Vec::new(), [0; 4_096]);
        for answer in answers {
            let read = stream.read(&mut buffer).unwrap();
            sent.extend_from_slice(&buffer[..read]);
            stream.write_all(answer).unwrap();
        }
        let mut rest = Vec::new();
        // A client that closes in the middle of a message is an error here, and no fault.
        let _ = stream.read_to_end(&mut rest);
        sent.extend(rest);
        sent
    });
    let folder = tempfile::tempdir().unwrap();
    let address = format!("postgresql://clerk@127.0.0.1:{port}/yard{query}");
    let error = with_variables(&[(PASSWORD, "harbour:bell".into())], || {
        answer_to(folder.path(), &address, "SELECT 1 ORDER BY 1").unwrap_err().to_string()
    });
    (server.join().unwrap(), error)
}

#[test]
fn no_server_gets_the_password() {
    let clear = b"R\0\0\0\x08\0\0\0\x03";
    let md5 = b"R\0\0\0\x0c\0\0\0\x05salt";
    for (answer, words) in [(&clear[..], "in clear text"), (&md5[..], "under MD5")] {
        let answers: &'static [&'static [u8]] = Box::leak(Box::new([answer.to_vec().leak() as &[u8]]));
        let (sent, error) = stand_in("", answers);
        assert!(error.contains(words) && error.contains("the password is not sent"), "{error}");
        // The first message names the user and the database. There is no second one.
        let sent = String::from_utf8_lossy(&sent);
        assert!(sent.contains("clerk") && sent.contains("yard") && !sent.contains("harbour"), "{sent}");
        assert!(!sent.contains("md5"), "{sent}");
    }
    let (sent, error) = stand_in("?sslmode=require", &[b"N"]);
    assert!(error.contains("the server offers no encryption"), "{error}");
    assert_eq!(sent.len(), 8, "{sent:?}");
}

#[test]
fn a_server_without_an_answer_is_not_waited_for() {
    for query in ["", "?sslmode=require"] {
        let began = Instant::now();
        let (_, error) = stand_in(query, &[b""]);
        assert!(error.contains("does not answer within 10 s"), "{error}");
        assert!(began.elapsed() < Duration::from_secs(30));
    }
}
