//! A real server on this machine, started for the tests, read by plans.

use crate::{Plan, RecordsError, RunRequest, Watch, run};
use postgres::{Client, NoTls};
use std::fs;
use std::net::TcpListener;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::atomic::AtomicBool;
use std::time::{Duration, Instant};

/// A server that ends with the test.
struct Server {
    folder: tempfile::TempDir,
    process: Child,
    port: u16,
}

/// Where the operating system has the server's programs; nothing where it has none.
fn programs() -> Option<PathBuf> {
    let by_version =
        fs::read_dir("/usr/lib/postgresql").ok()?.filter_map(|entry| Some(entry.ok()?.path().join("bin")));
    by_version.filter(|folder| folder.join("postgres").exists() && folder.join("initdb").exists()).max()
}

/// A program of the server. It refuses to be run by root, so that root runs it as the user whom its package made.
fn program(folder: &Path, name: &str) -> Command {
    let is_root = Command::new("id").arg("-u").output().is_ok_and(|said| said.stdout == b"0\n");
    let path = folder.join(name);
    if !is_root {
        return Command::new(path);
    }
    let mut command = Command::new("setpriv");
    command.args(["--reuid=postgres", "--regid=postgres", "--clear-groups"]).arg(path);
    command
}

impl Server {
    /// A server, or none where the system has none, which is said; where it must not be missing, that is a failure.
    fn start() -> Option<Self> {
        let Some(programs) = programs() else {
            assert!(
                std::env::var_os("MILD_NEEDS_SERVERS").is_none(),
                "there is no PostgreSQL server on this machine"
            );
            eprintln!("skipped: there is no PostgreSQL server on this machine");
            return None;
        };
        let folder = tempfile::tempdir().unwrap();
        // The server's user has to get into it.
        let open = std::os::unix::fs::PermissionsExt::from_mode(0o777);
        fs::set_permissions(folder.path(), open).unwrap();
        let data = folder.path().join("data");
        fs::write(folder.path().join("password"), "harbour:bell").unwrap();
        let made = program(&programs, "initdb")
            .args(["--auth=scram-sha-256", "--username=clerk", "--encoding=UTF8", "--no-sync", "--locale=C"])
            .arg(format!("--pwfile={}", folder.path().join("password").display()))
            .arg("-D")
            .arg(&data)
            .stdout(Stdio::null())
            .output()
            .unwrap();
        assert!(made.status.success(), "{}", String::from_utf8_lossy(&made.stderr));
        let port = TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
        let process = program(&programs, "postgres")
            .arg("-D")
            .arg(&data)
            .args(["-h", "127.0.0.1", "-p", &port.to_string(), "-k"])
            .arg(folder.path())
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        let server = Self { folder, process, port };
        let began = Instant::now();
        while server.connected().is_none() {
            assert!(began.elapsed() < Duration::from_secs(60), "the server does not answer");
            std::thread::sleep(Duration::from_millis(100));
        }
        Some(server)
    }

    fn connected(&self) -> Option<Client> {
        let address =
            format!("host=127.0.0.1 port={} user=clerk dbname=postgres password=harbour:bell", self.port);
        Client::connect(&address, NoTls).ok()
    }

    fn address(&self) -> String {
        format!("postgresql://clerk@127.0.0.1:{}/postgres", self.port)
    }

    /// The rows that a plan writes, or its error. Its password stands in a password file.
    fn rows(&self, more: &str) -> Result<String, RecordsError> {
        let folder = self.folder.path();
        let text = PLAN.replace("\"FILE\"", &format!("\"{}\"\n{more}", self.address()));
        rows(folder, &text)
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        // An interrupt ends it at once, its connections cut.
        let _ = Command::new("kill").args(["-INT", &self.process.id().to_string()]).status();
        let _ = self.process.wait();
    }
}

fn rows(folder: &Path, plan: &str) -> Result<String, RecordsError> {
    let plan = Plan::of_text(plan, &folder.join("plan.toml"))?;
    let request = RunRequest::new().with_existing(crate::ExistingFiles::Overwrite);
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_, _| {} };
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
    let Some(mut server) = Server::start() else { return };
    server.connected().unwrap().batch_execute(TABLE).unwrap();
    let folder = server.folder.path().to_owned();

    // Without its password, and with one in the address, nothing is read, and no password is shown.
    let refused = server.rows("table = \"invoices\"").unwrap_err().to_string();
    assert!(refused.contains("password"), "{refused}");
    let text = PLAN.replace("FILE", &server.address().replace("clerk@", "clerk:harbour:bell@"));
    let told = rows(&folder, &text).unwrap_err().to_string();
    assert!(told.contains("the address of the server holds a password") && !told.contains("bell"), "{told}");

    let kept = folder.join("passwords");
    fs::write(&kept, format!("# the yard\n127.0.0.1:{}:*:clerk:harbour\\:bell\n", server.port)).unwrap();
    fs::set_permissions(&kept, std::os::unix::fs::PermissionsExt::from_mode(0o600)).unwrap();
    // The test's own process reads the password file that its environment names.
    super::password::with_file(&kept, || {
        // A table gives what the same rows give as CSV; instants become the days of a zone.
        let csv = "Invoice,Issued,Made,Clock,Amount,Hours,Note\nA1,2026-09-30,2026-06-30T23:30Z,2026-06-30T23:30,10.5,0.3,\nA2,,,,-0.30,,\"a \"\"quote\"\", and\na line\"\nA3,2024-02-29,2026-03-29T00:30Z,2026-03-29T00:30,7,2,=1+1\n";
        fs::write(folder.join("same.csv"), csv).unwrap();
        let typed = "[records.dates]\nIssued = \"iso\"\nClock = { written = \"iso\", time = \"keep\" }";
        let as_csv =
            rows(&folder, &PLAN.replace("FILE", "same.csv").replace("[records.dates]", typed)).unwrap();
        assert_eq!(server.rows("table = \"invoices\"").unwrap(), as_csv);
        assert!(as_csv.contains("A1,2026-09-30,2026-07-01,2026-06-30T23:30:00,10.50,0.30,\n"), "{as_csv}");
        assert_eq!(server.rows("table = \"public.invoices\"").unwrap(), as_csv);
        let query = "query = 'SELECT * FROM invoices ORDER BY \"Invoice\" -- in order'";
        assert_eq!(server.rows(query).unwrap(), as_csv);

        // Names are never run, and queries only read.
        let strange = server.rows("table = 'x\"; DROP TABLE invoices; --'").unwrap_err().to_string();
        assert!(strange.contains("there is no column \"Made\""), "{strange}");
        for (said, error) in [
            ("table = \"nowhere\"", "there is no table \"nowhere\" on the server"),
            ("table = \"loose\"", "has no primary key"),
            ("", "does not say what is read from the server"),
            ("query = \"SELECT 1\"", "has no order"),
            ("query = \"DELETE FROM invoices RETURNING * /* order by */\"", "read-only transaction"),
            ("query = \"SELECT 1 ORDER BY 1) TO PROGRAM 'touch /tmp/x' --\"", "syntax error"),
            ("query = \"SELECT 1 ORDER BY 1; DROP TABLE invoices\"", "multiple commands"),
        ] {
            let found = server.rows(said).unwrap_err().to_string();
            assert!(found.contains(error), "{said}: {found}");
        }
        assert_eq!(server.rows("table = \"invoices\"").unwrap(), as_csv, "nothing was changed");

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

        // A server that goes away in the middle leaves nothing half-written.
        let before = fs::read(folder.join("rows.csv")).unwrap();
        let slow = "query = 'SELECT g::text AS \"Invoice\", NULL AS \"Made\", 1 AS \"Amount\", 1 AS \"Hours\", pg_sleep(0.0005)::text FROM generate_series(1, 100000) g ORDER BY g'";
        let process = server.process.id();
        let killer = std::thread::spawn(move || {
            std::thread::sleep(Duration::from_millis(1_500));
            Command::new("kill").args(["-QUIT", &process.to_string()]).status()
        });
        let gone = server.rows(slow).unwrap_err().to_string();
        assert!(gone.contains("could not read it"), "{gone}");
        assert!(killer.join().unwrap().is_ok());
        let _ = server.process.wait();
        assert_eq!(fs::read(folder.join("rows.csv")).unwrap(), before);
        let missing = server.rows("table = \"invoices\"").unwrap_err().to_string();
        assert!(missing.contains("could not read it"), "{missing}");
    });
}
