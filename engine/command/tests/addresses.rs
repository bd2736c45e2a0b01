//! Records at addresses: a store that speaks the protocol of S3 and one of byte ranges alone, both small servers of the tests, and a real web server
//! with WebDAV; in one process and on a cluster.

#![allow(clippy::unwrap_used, clippy::panic)] // a test fails by panicking

mod support;

use mild_ledger_records::Plan;
use mild_ledger_report::drawn;
use std::fs;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Output, Stdio};
use std::time::{Duration, Instant};
use support::cluster::{COMMAND, Cluster, free_port};
use support::left::{self, as_a_whole, request};
use support::runs::{left_of, lines, rows_in, whole};
use support::store::{Answer, Asked, SLOWLY, Server, Store};

const PLAN: &str = r#"plan = 1
as_of = 2026-09-30
[records]
file = "month"
file_column = "From"
key = "Invoice"
duplicates = "first"
[records.dates]
Issued = "iso"
[records.amounts]
Amount = { decimals = 2 }
[[column]]
name = "Days"
between = ["Issued", "as-of"]
count = "days"
[[column]]
name = "Band"
bucket = "Days"
edges = [0, 30, 60]
[[report]]
kind = "aging"
band = "Band"
amount = "Amount"
by = "Customer"
[output]
rows = "rows.csv"
exceptions = "exceptions.csv"
"#;

/// A folder with a plan, and a folder `month` of records in it: text with faults and duplicates, JSON Lines, and columns.
fn yard() -> tempfile::TempDir {
    let folder = tempfile::tempdir().unwrap();
    let month = folder.path().join("month");
    fs::create_dir_all(month.join("older")).unwrap();
    fs::write(folder.path().join("plan.toml"), PLAN).unwrap();
    let rows = |from: u32, to: u32| -> String {
        (from..to)
            .map(|row| {
                let amount = if row % 900 == 7 {
                    "much".to_owned()
                } else {
                    format!("{}.{:02}", row % 700, row % 100)
                };
                format!(
                    "QB-{},Customer {},2026-0{}-{:02},{amount}\n",
                    row % 6000,
                    row % 9,
                    row % 9 + 1,
                    row % 28 + 1
                )
            })
            .collect()
    };
    let header = "Invoice,Customer,Issued,Amount\n";
    fs::write(month.join("a b.csv"), format!("{header}{}", rows(0, 9000))).unwrap();
    fs::write(month.join("b%20.csv"), format!("{header}{}", rows(9000, 9300))).unwrap();
    fs::write(month.join("notes.pdf"), "no records").unwrap();
    fs::write(month.join("older/c.csv"), "no records either").unwrap();
    let object =
        "{\"Invoice\":\"QB-9\",\"Customer\":\"Customer 1\",\"Issued\":\"2026-08-31\",\"Amount\":\"1.00\"}\n";
    fs::write(month.join("c.jsonl"), object).unwrap();
    columns(&month.join("d.parquet"));
    folder
}

/// Invoices as columns, made from text by a plan.
fn columns(path: &Path) {
    let folder = tempfile::tempdir().unwrap();
    let rows: String = (0..5000)
        .map(|row| format!("P-{row},Customer {},2026-07-{:02},{row}.50\n", row % 9, row % 31 + 1))
        .collect();
    fs::write(folder.path().join("text.csv"), format!("Invoice,Customer,Issued,Amount\n{rows}")).unwrap();
    let text = "plan = 1\n[records]\nfile = \"text.csv\"\n[records.dates]\nIssued = \"iso\"\n[records.amounts]\nAmount = { decimals = 2 }\n\
        [output]\nrows = \"rows.parquet\"\nexceptions = \"exceptions.csv\"\n";
    let plan = Plan::of_text(text, &folder.path().join("columns.toml")).unwrap();
    let outcome = as_a_whole(&plan, &request(), &|_, _| Ok(Vec::new())).unwrap();
    assert_eq!(outcome.rows.written, 5000);
    fs::copy(folder.path().join("rows.parquet"), path).unwrap();
}

/// What `mild-engine run` does of the plan, over other records.
fn run(folder: &Path, records: &[String], environment: &[(&str, String)], more: &[&str]) -> Output {
    let records = records.iter().flat_map(|records| ["--records", records.as_str()]);
    let mut command = Command::new(COMMAND);
    command
        .arg("run")
        .arg(folder.join("plan.toml"))
        .args(["--json", "--overwrite", "--sample", "3"])
        .args(records)
        .args(more);
    command.envs(environment.iter().map(|(name, value)| (name, value))).current_dir(folder).output().unwrap()
}

/// A run over addresses comes to what the one over the folder does, but for how the files are called.
fn same(folder: &Path, address: &str, run: impl FnOnce() -> Output) {
    let plan = Plan::read(&folder.join("plan.toml")).unwrap();
    let outcome = as_a_whole(&plan, &request(), &drawn).unwrap();
    assert!(outcome.rows.set_aside > 0 && outcome.rows.merged > 0, "{:?}", outcome.rows);
    let expected = whole(folder, "plan.toml");
    let output = run();
    let said = String::from_utf8_lossy(&output.stderr).into_owned();
    assert!(output.status.success(), "{said}");
    let rows = rows_in(&outcome.outputs[0].path);
    let found = left_of(&String::from_utf8(output.stdout).unwrap(), &outcome, &rows);
    let as_here = |text: String| {
        let text = text.replace(address, "month/").replace("%20", " ").replace("%25", "%");
        text.replace("\"month/\"", "\"month\"")
    };
    // Paths of files start from the folder.
    let within = |text: String| text.replace(&format!("{}/", folder.display()), "");
    let (found, expected) = (lines(&found).map(as_here).map(within), lines(&expected).map(within));
    left::same(&found, &expected, address);
}

/// The environment of a store of this machine that speaks the protocol of S3.
fn s3(port: u16) -> [(&'static str, String); 5] {
    [
        ("AWS_ENDPOINT_URL", format!("http://127.0.0.1:{port}")),
        ("AWS_ALLOW_HTTP", "true".to_owned()),
        ("AWS_ACCESS_KEY_ID", "yard".to_owned()),
        ("AWS_SECRET_ACCESS_KEY", "not a secret".to_owned()),
        ("AWS_REGION", "yard".to_owned()),
    ]
}

#[test]
fn a_folder_of_a_store_that_speaks_the_protocol_of_s3() {
    let folder = yard();
    let bucket = tempfile::tempdir().unwrap();
    copy_all(&folder.path().join("month"), &bucket.path().join("yard/books/month"));
    let store = Store::of(bucket.path(), None);
    let environment = s3(store.port);
    let address = "s3://yard/books/month/";
    same(folder.path(), address, || {
        run(folder.path(), &[address.to_owned()], &environment, &["--partitions", "3"])
    });
    assert!(store.asked().iter().any(|asked| asked.contains("list-type=2")), "{:?}", store.asked());
}

#[test]
fn files_of_a_web_server_one_by_one_on_two_executors() {
    let folder = yard();
    let store = Store::of(folder.path(), None);
    let cluster = Cluster::of(2);
    let address = format!("http://127.0.0.1:{}/month/", store.port);
    let files: Vec<String> = ["a%20b.csv", "b%2520.csv", "c.jsonl", "d.parquet"]
        .iter()
        .map(|name| format!("{address}{name}"))
        .collect();
    let on_the_cluster = ["--cluster", &cluster.address, "--partitions", "4", "--give-up-after", "60"];
    // The whole names its records by their folder, which no one lists here.
    let plan = fs::read_to_string(folder.path().join("plan.toml")).unwrap();
    let named = "[\"month/a b.csv\", \"month/b%20.csv\", \"month/c.jsonl\", \"month/d.parquet\"]";
    fs::write(folder.path().join("plan.toml"), plan.replace("\"month\"", named)).unwrap();
    same(folder.path(), &address, || run(folder.path(), &files, &[], &on_the_cluster));
    // Executors ask for parts of the large file, never for all of it at once.
    assert!(
        store.asked().iter().all(|asked| asked.starts_with("HEAD ") || asked.contains("bytes=")),
        "{:?}",
        store.asked()
    );
}

#[test]
fn what_is_not_there_and_who_is_not_let_in() {
    let folder = yard();
    let store = Store::of(folder.path(), Some("harbour light"));
    let address = format!("http://127.0.0.1:{}/month/c.jsonl", store.port);
    let tokens = |tokens: &str| [("MILD_ADDRESS_TOKENS", tokens.to_owned())];
    let ended = |records: &str, environment: &[(&str, String)]| {
        let began = Instant::now();
        let output = run(folder.path(), &[records.to_owned()], environment, &[]);
        assert!(began.elapsed() < Duration::from_secs(20), "{:?}", began.elapsed());
        (output.status.code(), String::from_utf8(output.stderr).unwrap())
    };
    assert_eq!(ended(&address, &tokens("elsewhere=other, 127.0.0.1=harbour light")).0, Some(0));
    fs::remove_dir_all(folder.path().join("rows.csv")).unwrap();
    let missing = address.replace("c.jsonl", "none.csv");
    let nobody = format!("http://127.0.0.1:{}/month/c.jsonl", free_port());
    let plain = "http://yard.example/c.jsonl".to_owned();
    for (records, environment, code, expected) in [
        (&missing, tokens("127.0.0.1=harbour light"), 3, "none.csv"),
        (&address, tokens("127.0.0.1=wrong"), 3, "permission denied"),
        (&address, tokens(""), 3, "permission denied"),
        (&nobody, tokens(""), 3, "Connection refused"),
        (&plain, tokens("yard.example=secret"), 3, "is sent to an address of https alone"),
    ] {
        let (found, said) = ended(records, &environment);
        assert_eq!(found, Some(code), "{said}");
        assert!(said.contains(expected) && !said.contains("secret") && !said.contains("harbour"), "{said}");
        let left: Vec<_> =
            fs::read_dir(folder.path()).unwrap().map(|entry| entry.unwrap().file_name()).collect();
        assert!(left.iter().all(|name| !name.to_string_lossy().starts_with(".mild-run")), "{left:?}");
        assert!(!folder.path().join("rows.csv").exists());
    }
}

/// Rows of invoices, more than one reading of a server asks for at once.
fn many_rows() -> Vec<u8> {
    let rows = (0..20_000)
        .map(|row| format!("QB-{row},Customer {},2026-09-{:02},{row}.00\n", row % 9, row % 28 + 1));
    format!("Invoice,Customer,Issued,Amount\n{}", rows.collect::<String>()).into_bytes()
}

/// The part of some bytes that a request asks for, as a server gives it.
fn part_of(all: &[u8], asked: &Asked<'_>) -> Answer {
    let dated = ("Last-Modified", "Thu, 01 Oct 2026 08:00:00 GMT".to_owned());
    if asked.method == "HEAD" {
        return ("200 OK", vec![dated, ("Content-Length", all.len().to_string())], Vec::new());
    }
    let Some((from, to)) = asked.range() else { return ("200 OK", vec![dated], all.to_vec()) };
    let part = all[from..(to + 1).min(all.len())].to_vec();
    let range = format!("bytes {from}-{}/{}", from + part.len() - 1, all.len());
    ("206 Partial Content", vec![dated, ("Content-Range", range)], part)
}

/// What a run over an address says that ends with an error and leaves nothing.
fn refused(folder: &Path, address: &str, environment: &[(&str, String)]) -> String {
    let began = Instant::now();
    let output = run(folder, &[address.to_owned()], environment, &["--pieces-of", "100000"]);
    let said = String::from_utf8(output.stderr).unwrap();
    assert_ne!(output.status.code(), Some(0), "{said}");
    assert!(began.elapsed() < Duration::from_secs(30), "{:?}: {said}", began.elapsed());
    assert!(!folder.join("rows.csv").exists(), "{said}");
    said
}

#[test]
fn bytes_that_change_after_they_were_hashed_are_an_error() {
    let folder = yard();
    // Without a mark of its state the file looks the same: a digit changes once all of it was read.
    let (all, given) = (many_rows(), std::sync::atomic::AtomicUsize::new(0));
    let server = Server::that(move |asked| {
        let mut now = all.clone();
        if given.load(std::sync::atomic::Ordering::SeqCst) >= now.len() {
            let place = now.len() - 4;
            now[place] = b'9';
        }
        let answer = part_of(&now, asked);
        given.fetch_add(answer.2.len(), std::sync::atomic::Ordering::SeqCst);
        answer
    });
    let said = refused(folder.path(), &format!("http://127.0.0.1:{}/rows.csv", server.port), &[]);
    assert!(said.contains("it is not the file that the run hashed"), "{said}");
}

#[test]
fn a_length_that_contradicts_the_range_is_an_error() {
    let folder = yard();
    let all = many_rows();
    let server = Server::that(move |asked| {
        let (status, mut headers, body) = part_of(&all, asked);
        if asked.method == "HEAD" {
            // Half of the rows.
            headers[1].1 = (all.len() / 2).to_string();
        }
        (status, headers, body)
    });
    let said = refused(folder.path(), &format!("http://127.0.0.1:{}/rows.csv", server.port), &[]);
    assert!(said.contains("were asked for"), "{said}");
}

#[test]
fn a_redirect_to_another_origin_is_refused_unless_it_is_allowed_and_then_recorded() {
    let folder = yard();
    let there = Store::of(&folder.path().join("month"), None);
    let location = format!("http://127.0.0.1:{}/c.jsonl", there.port);
    let to = location.clone();
    let here = Server::that(move |_| ("302 Found", vec![("Location", to.clone())], Vec::new()));
    let address = format!("http://127.0.0.1:{}/month.jsonl", here.port);
    let said = refused(folder.path(), &address, &[]);
    let allow = format!("MILD_ADDRESS_REDIRECTS=127.0.0.1:{}", there.port);
    assert!(said.contains("leads to another origin") && said.contains(&allow), "{said}");
    assert_eq!(there.asked(), Vec::<String>::new());
    let allowed = [("MILD_ADDRESS_REDIRECTS", format!("elsewhere.example, 127.0.0.1:{}", there.port))];
    let output = run(folder.path(), std::slice::from_ref(&address), &allowed, &[]);
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let receipt = fs::read_to_string(folder.path().join("plan.receipt.toml")).unwrap();
    assert!(receipt.contains(&format!("redirected_to = \"{location}\"")), "{receipt}");
}

#[test]
fn a_body_that_trickles_is_given_up() {
    let folder = yard();
    let all = many_rows();
    let server = Server::that(move |asked| {
        let (status, mut headers, body) = part_of(&all, asked);
        headers.push((SLOWLY, "yes".to_owned()));
        (status, headers, body)
    });
    let seconds = [("MILD_ADDRESS_SECONDS", "1".to_owned())];
    let said = refused(folder.path(), &format!("http://127.0.0.1:{}/rows.csv", server.port), &seconds);
    assert!(said.contains("timed out") || said.contains("timeout"), "{said}");
}

/// What a server says is in a folder (RFC 4918): also what is not a file of it.
#[test]
fn a_folder_gives_its_own_files_alone() {
    let folder = yard();
    let rows = b"Invoice,Customer,Issued,Amount\nQB-1,Heron,2026-09-01,10.00\n".to_vec();
    let server = Server::that(move |asked| {
        if asked.method != "PROPFIND" {
            return part_of(&rows, asked);
        }
        let names = [
            "/month/a.csv",
            "/month/a.csv",
            "/month/.a.csv",
            "/month/older/b.csv",
            "/c.csv",
            "/month/notes.pdf",
            "/month/%2e%2e/d.csv",
        ];
        let file = |name: &&str| {
            format!(
                "<D:response><D:href>{name}</D:href><D:propstat><D:prop><D:getlastmodified>Thu, 01 Oct 2026 08:00:00 GMT</D:getlastmodified>\
                 <D:getcontentlength>60</D:getcontentlength><D:resourcetype/></D:prop><D:status>HTTP/1.1 200 OK</D:status></D:propstat></D:response>"
            )
        };
        let files: String = names.iter().map(file).collect();
        let body = format!("<?xml version=\"1.0\"?><D:multistatus xmlns:D=\"DAV:\">{files}</D:multistatus>");
        ("207 Multi-Status", vec![("Content-Type", "application/xml".to_owned())], body.into_bytes())
    });
    let address = format!("http://127.0.0.1:{}/month/", server.port);
    let output = run(folder.path(), std::slice::from_ref(&address), &[], &[]);
    let said = String::from_utf8_lossy(&output.stderr).into_owned();
    assert!(output.status.success(), "{said}");
    let object = String::from_utf8(output.stdout).unwrap();
    let object: serde_json::Value = serde_json::from_str(&object).unwrap();
    assert_eq!(object["rows"]["read"], 1, "{object}");
    let others = |asked: &&String| !asked.contains("PROPFIND") && !asked.contains("/month/a.csv");
    assert_eq!(server.asked().iter().find(others), None);
}

/// A store that always has one more page (with names, or without any) is refused, and soon.
#[test]
fn a_listing_without_an_end_is_refused() {
    let folder = yard();
    for names in [0, 1_000] {
        let server = Server::that(move |asked| {
            let asks_for = asked.target.split('&').find_map(|part| part.split_once("continuation-token="));
            let nth: usize = asks_for.map_or(0, |(_, token)| token.parse().unwrap());
            let file = |name| {
                format!(
                    "<Contents><Key>books/{nth}-{name}.csv</Key><LastModified>2026-10-01T08:00:00.000Z</LastModified><Size>60</Size></Contents>"
                )
            };
            let files: String = (0..names).map(file).collect();
            let body = format!(
                "<?xml version=\"1.0\"?><ListBucketResult><IsTruncated>true</IsTruncated>{files}<NextContinuationToken>{}</NextContinuationToken></ListBucketResult>",
                nth + 1
            );
            ("200 OK", vec![("Content-Type", "application/xml".to_owned())], body.into_bytes())
        });
        let said = refused(folder.path(), "s3://yard/books/", &s3(server.port));
        let expected =
            if names == 0 { "its listing goes on after 100 pages" } else { "it lists 11000 files" };
        assert!(said.contains(expected), "{said}");
        assert!(server.asked().len() <= 101, "{}", server.asked().len());
    }
}

/// A web server with WebDAV, as the operating system has it.
struct WebServer {
    process: Child,
    port: u16,
    _folder: tempfile::TempDir,
}

impl WebServer {
    /// Serves a folder; none where there is no server, which is an error where the tests must have one.
    fn of(folder: &Path) -> Option<Self> {
        let (program, webdav) = ("/usr/sbin/lighttpd", "/usr/lib/lighttpd/mod_webdav.so");
        if let Some(lacking) = [program, webdav].into_iter().find(|path| !Path::new(path).exists()) {
            assert!(std::env::var_os("MILD_NEEDS_SERVERS").is_none(), "there is no {lacking}");
            return None;
        }
        let (own, port) = (tempfile::tempdir().unwrap(), free_port());
        let settings = format!(
            "server.document-root = \"{}\"\nserver.bind = \"127.0.0.1\"\nserver.port = {port}\n\
             server.modules = (\"mod_webdav\")\nwebdav.activate = \"enable\"\nwebdav.is-readonly = \"enable\"\n",
            folder.display()
        );
        let place = own.path().join("settings.conf");
        fs::write(&place, settings).unwrap();
        let process =
            Command::new(program).arg("-D").arg("-f").arg(place).stderr(Stdio::null()).spawn().unwrap();
        let began = Instant::now();
        while std::net::TcpStream::connect(("127.0.0.1", port)).is_err() {
            assert!(began.elapsed() < Duration::from_secs(20), "the web server does not come up");
            std::thread::sleep(Duration::from_millis(50));
        }
        Some(Self { process, port, _folder: own })
    }
}

impl Drop for WebServer {
    fn drop(&mut self) {
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}

#[test]
fn a_folder_of_a_real_web_server() {
    let folder = yard();
    let Some(server) = WebServer::of(folder.path()) else { return };
    let address = format!("http://127.0.0.1:{}/month/", server.port);
    same(folder.path(), &address, || {
        run(folder.path(), std::slice::from_ref(&address), &[], &["--partitions", "2"])
    });
    let none = run(folder.path(), &[address.replace("month", "nothing")], &[], &[]);
    assert_eq!(none.status.code(), Some(2), "{}", String::from_utf8_lossy(&none.stderr));
}

fn copy_all(from: &Path, to: &Path) {
    fs::create_dir_all(to).unwrap();
    for entry in fs::read_dir(from).unwrap().map(Result::unwrap) {
        let (from, to): (PathBuf, PathBuf) = (entry.path(), to.join(entry.file_name()));
        if from.is_dir() {
            copy_all(&from, &to);
        } else {
            fs::copy(from, to).unwrap();
        }
    }
}
