//! A small stand-in for a store of files: byte ranges by HTTP (RFC 9110), and the part of the protocol of S3 that lists a folder.

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
    served: Arc<Served>,
}

struct Served {
    folder: PathBuf,
    /// What a request must bring where somebody must be let in.
    token: Option<String>,
    /// The first line of each request, and the range that it asks for.
    asked: Mutex<Vec<String>>,
}

impl Store {
    pub fn of(folder: &Path, token: Option<&str>) -> Self {
        let listener = TcpListener::bind("127.0.0.1:0").unwrap();
        let port = listener.local_addr().unwrap().port();
        let served = Arc::new(Served {
            folder: folder.to_owned(),
            token: token.map(str::to_owned),
            asked: Mutex::default(),
        });
        let all = Arc::clone(&served);
        std::thread::spawn(move || {
            for stream in listener.incoming().map_while(Result::ok) {
                let served = Arc::clone(&all);
                std::thread::spawn(move || served.talk(&stream));
            }
        });
        Self { port, served }
    }

    /// What was asked for so far.
    pub fn asked(&self) -> Vec<String> {
        self.served.asked.lock().unwrap().clone()
    }
}

/// An answer: its first line, its headers, its body.
type Answer = (&'static str, Vec<(&'static str, String)>, Vec<u8>);

impl Served {
    /// Answers one request after the other, as long as somebody asks.
    fn talk(&self, stream: &TcpStream) {
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
            self.asked.lock().unwrap().push(format!("{} {range}", first.trim()).trim().to_owned());
            let (status, headers, body) = self.answer(&first, &headers);
            let mut text = format!("HTTP/1.1 {status}\r\n");
            headers.iter().for_each(|(name, value)| text.push_str(&format!("{name}: {value}\r\n")));
            if !headers.iter().any(|(name, _)| *name == "Content-Length") {
                text.push_str(&format!("Content-Length: {}\r\n", body.len()));
            }
            text.push_str("\r\n");
            let mut out = stream;
            if out.write_all(text.as_bytes()).and_then(|()| out.write_all(&body)).is_err() {
                return;
            }
            first.clear();
        }
    }

    fn answer(&self, first: &str, headers: &HashMap<String, String>) -> Answer {
        let mut words = first.split(' ');
        let (method, target) = (words.next().unwrap_or(""), words.next().unwrap_or(""));
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
        let range = headers.get("range").and_then(|range| range.strip_prefix("bytes=")?.split_once('-'));
        let Some((from, to)) =
            range.and_then(|(from, to)| Some((from.parse::<usize>().ok()?, to.parse::<usize>().ok()?)))
        else {
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

/// A text whose percent signs stand for bytes (RFC 3986).
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
