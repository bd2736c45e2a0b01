//! A small server that acts as a store of files: byte ranges by HTTP (RFC 9110), and the part of the protocol of S3 that lists a folder.

use std::collections::HashMap;
use std::fmt::Write as _;
use std::fs;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::{TcpListener, TcpStream};
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex};

/// A server of the files of a folder, at a port of this machine; it ends with the process.
pub struct Store {
    pub port: u16,
    server: Server,
}

struct Served {
    folder: PathBuf,
    /// What a request must bring where a user must be let in.
    token: Option<String>,
}

impl Store {
    pub fn of(folder: &Path, token: Option<&str>) -> Self {
        let served = Arc::new(Served { folder: folder.to_owned(), token: token.map(str::to_owned) });
        let server = Server::that(move |asked| served.answer(asked));
        Self { port: server.port, server }
    }

    /// The requests so far.
    pub fn asked(&self) -> Vec<String> {
        self.server.asked()
    }
}

/// A server at a port of this machine, which answers as a function says; it ends with the process.
pub struct Server {
    pub port: u16,
    /// The first line of each request, and the range that it asks for.
    asked: Arc<Mutex<Vec<String>>>,
}

/// A request: its method, its target, and its headers by their names in small letters.
pub struct Asked<'a> {
    pub method: &'a str,
    pub target: &'a str,
    pub headers: &'a HashMap<String, String>,
}

impl Asked<'_> {
    /// The bytes that it asks for, the last one included.
    pub fn range(&self) -> Option<(usize, usize)> {
        let (from, to) = self.headers.get("range")?.strip_prefix("bytes=")?.split_once('-')?;
        Some((from.parse().ok()?, to.parse().ok()?))
    }
}

/// The name of a header with which the test server sends its body one byte after the other, a tenth of a second apart.
pub const SLOWLY: &str = "X-Slowly";

impl Server {
    pub fn that(answer: impl Fn(&Asked<'_>) -> Answer + Send + Sync + 'static) -> Self {
        let listener = TcpListener::bind("127.0.0.1:0").unwrap();
        let port = listener.local_addr().unwrap().port();
        let asked = Arc::new(Mutex::new(Vec::new()));
        let (all, answer) = (Arc::clone(&asked), Arc::new(answer));
        std::thread::spawn(move || {
            for stream in listener.incoming().map_while(Result::ok) {
                let (asked, answer) = (Arc::clone(&all), Arc::clone(&answer));
                std::thread::spawn(move || talk(&stream, &asked, answer.as_ref()));
            }
        });
        Self { port, asked }
    }

    /// The requests so far.
    pub fn asked(&self) -> Vec<String> {
        self.asked.lock().unwrap().clone()
    }
}

/// An answer: its first line, its headers, its body.
pub type Answer = (&'static str, Vec<(&'static str, String)>, Vec<u8>);

/// Answers one request after the other, as long as a client asks.
fn talk(stream: &TcpStream, asked: &Mutex<Vec<String>>, answer: &dyn Fn(&Asked<'_>) -> Answer) {
    let mut lines = BufReader::new(stream);
    let mut first = String::new();
    while lines.read_line(&mut first).is_ok_and(|read| read > 0) {
        let mut headers = HashMap::new();
        let mut line = String::new();
        while lines.read_line(&mut line).is_ok() && !line.trim().is_empty() {
            if let Some((name, value)) = line.split_once(':') {
                headers.insert(name.to_lowercase(), value.trim().to_owned());
            }
            line.clear();
        }
        let body = headers.get("content-length").and_then(|length| length.parse().ok()).unwrap_or(0);
        let _ = lines.by_ref().take(body).read_to_end(&mut Vec::new());
        let range = headers.get("range").map_or("", String::as_str);
        asked.lock().unwrap().push(format!("{} {range}", first.trim()).trim().to_owned());
        let mut words = first.split(' ');
        let (method, target) = (words.next().unwrap_or(""), words.next().unwrap_or(""));
        let (status, headers, body) = answer(&Asked { method, target, headers: &headers });
        let mut text = format!("HTTP/1.1 {status}\r\n");
        headers.iter().for_each(|(name, value)| text.push_str(&format!("{name}: {value}\r\n")));
        if !headers.iter().any(|(name, _)| *name == "Content-Length") {
            text.push_str(&format!("Content-Length: {}\r\n", body.len()));
        }
        text.push_str("\r\n");
        let mut out = stream;
        if out.write_all(text.as_bytes()).is_err() {
            return;
        }
        let is_slow = headers.iter().any(|(name, _)| *name == SLOWLY);
        for some in body.chunks(if is_slow { 1 } else { body.len().max(1) }) {
            if out.write_all(some).is_err() {
                return;
            }
            if is_slow {
                std::thread::sleep(std::time::Duration::from_millis(100));
            }
        }
        first.clear();
    }
}

impl Served {
    fn answer(&self, asked: &Asked<'_>) -> Answer {
        let Asked { method, target, headers } = *asked;
        if let Some(token) = &self.token
            && headers.get("authorization") != Some(&format!("Bearer {token}"))
        {
            return ("401 Unauthorized", Vec::new(), Vec::new());
        }
        let (path, query) = target.split_once('?').unwrap_or((target, ""));
        if query.contains("list-type=2") {
            return self.listed(path, query);
        }
        let Ok(all) = fs::read(self.folder.join(decoded(path).trim_start_matches('/'))) else {
            return ("404 Not Found", Vec::new(), Vec::new());
        };
        let mark = format!(
            "\"{:x}\"",
            all.iter().fold(7_u64, |sum, byte| sum.wrapping_mul(31).wrapping_add((*byte).into()))
        );
        if headers.get("if-match").is_some_and(|wanted| *wanted != mark) {
            return ("412 Precondition Failed", Vec::new(), Vec::new());
        }
        let mut said = vec![("ETag", mark), ("Last-Modified", "Thu, 01 Oct 2026 08:00:00 GMT".to_owned())];
        if method == "HEAD" {
            said.push(("Content-Length", all.len().to_string()));
            return ("200 OK", said, Vec::new());
        }
        let Some((from, to)) = asked.range() else {
            return ("200 OK", said, all);
        };
        let Some(part) = all.get(from..(to + 1).min(all.len())) else {
            return ("416 Range Not Satisfiable", Vec::new(), Vec::new());
        };
        said.push(("Content-Range", format!("bytes {from}-{}/{}", from + part.len() - 1, all.len())));
        ("206 Partial Content", said, part.to_vec())
    }

    /// The files of a folder of a bucket, which is a folder itself.
    fn listed(&self, bucket: &str, query: &str) -> Answer {
        let prefix =
            query.split('&').find_map(|part| part.strip_prefix("prefix=")).map(decoded).unwrap_or_default();
        let bucket = self.folder.join(decoded(bucket).trim_matches('/'));
        let mut text =
            String::from("<?xml version=\"1.0\"?><ListBucketResult><IsTruncated>false</IsTruncated>");
        for entry in fs::read_dir(bucket.join(&prefix)).into_iter().flatten() {
            let entry = entry.unwrap();
            let (name, bytes) = (entry.file_name().into_string().unwrap(), entry.metadata().unwrap().len());
            let _ = if entry.path().is_dir() {
                write!(text, "<CommonPrefixes><Prefix>{prefix}{name}/</Prefix></CommonPrefixes>")
            } else {
                write!(
                    text,
                    "<Contents><Key>{prefix}{name}</Key><LastModified>2026-10-01T08:00:00.000Z</LastModified><Size>{bytes}</Size></Contents>"
                )
            };
        }
        text.push_str("</ListBucketResult>");
        ("200 OK", vec![("Content-Type", "application/xml".to_owned())], text.into_bytes())
    }
}

/// A text whose percent signs represent bytes (RFC 3986).
fn decoded(text: &str) -> String {
    let mut bytes = Vec::new();
    let mut rest = text.as_bytes();
    while let Some((first, behind)) = rest.split_first() {
        let byte = std::str::from_utf8(behind.get(..2).unwrap_or_default())
            .ok()
            .and_then(|digits| u8::from_str_radix(digits, 16).ok())
            .filter(|_| *first == b'%');
        bytes.push(byte.unwrap_or(*first));
        rest = if byte.is_some() { &behind[2..] } else { behind };
    }
    String::from_utf8(bytes).unwrap()
}
