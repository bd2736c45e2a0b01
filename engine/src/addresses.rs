//! Records at addresses: web servers that give byte ranges (RFC 9110) and say what is in a folder (WebDAV, RFC 4918), and stores that
//! speak the protocol of S3.

use crate::web_client::{WebClients, longest_answer};
use mild_ledger_records::{RemoteFile, RemoteFiles};
use object_store::aws::AmazonS3Builder;
use object_store::http::HttpBuilder;
use object_store::list::{PaginatedListOptions, PaginatedListStore};
use object_store::path::{DELIMITER, Path};
use object_store::{
    BackoffConfig, ClientOptions, GetOptions, GetRange, HeaderMap, HeaderValue, ObjectMeta, ObjectStore,
    ObjectStoreExt, RetryConfig,
};
use std::collections::HashMap;
use std::io;
use std::ops::Range;
use std::sync::mpsc::sync_channel;
use std::sync::{Arc, Mutex, OnceLock, PoisonError};
use std::time::Duration;
use tokio::runtime::{Builder, Runtime};
use url::Url;

/// What says who may read what is at addresses: `host=token`, several of them after commas.
const TOKENS: &str = "MILD_ADDRESS_TOKENS";

/// The most names of a folder that are taken.
const MOST_NAMES: usize = 10_000;
/// The most answers that a listing may come in. A page of S3's protocol has up to 1,000 names, so that an honest store needs far fewer.
const MOST_PAGES: usize = 100;

/// Files at addresses, for all runs of this process. Each address is asked for as the environment says: `MILD_ADDRESS_TOKENS` for `http` and
/// `https`, and the variables of S3's protocol (`AWS_ENDPOINT_URL`, `AWS_REGION`, `AWS_ACCESS_KEY_ID` and so on) for `s3`.
///
/// ```
/// use mild_ledger_records::RemoteFiles;
/// let addresses = mild_ledger_engine::addresses();
/// assert!(addresses.reads("https://yard.example/invoices.parquet") && !addresses.reads("ftp://yard.example/invoices.csv"));
/// ```
#[must_use]
pub fn addresses() -> Arc<dyn RemoteFiles> {
    static SHARED: OnceLock<Arc<Addresses>> = OnceLock::new();
    Arc::clone(SHARED.get_or_init(Arc::default)) as Arc<dyn RemoteFiles>
}

/// Reads from stores, and waits for them.
#[derive(Debug, Default)]
struct Addresses {
    stores: Mutex<HashMap<String, Store>>,
    clients: WebClients,
    /// The threads that speak to servers. Who reads waits for them on a thread of his own.
    runtime: OnceLock<Option<Runtime>>,
}

/// A store of files.
#[derive(Clone)]
struct Store {
    files: Arc<dyn ObjectStore>,
    /// The same store, where it lists a folder page by page.
    pages: Option<Arc<dyn PaginatedListStore>>,
}

impl std::fmt::Debug for Store {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        self.files.fmt(f)
    }
}

/// A file or a folder of a store.
struct Place {
    store: Store,
    /// The address of the store itself.
    of_store: Url,
    path: Path,
}

impl RemoteFiles for Addresses {
    fn reads(&self, address: &str) -> bool {
        Scheme::of(address).is_some()
    }

    fn file(&self, address: &str) -> io::Result<RemoteFile> {
        let Place { store, path, .. } = self.place(address)?;
        let found = self.wait(async move { store.files.head(&path).await })?;
        Ok(RemoteFile {
            address: address.to_owned(),
            bytes: found.size,
            version: version_of(&found),
            led_to: self.clients.led_to(address),
        })
    }

    fn names_in(&self, folder: &str) -> io::Result<Vec<String>> {
        let Place { store, of_store, path } = self.place(folder)?;
        let listed = self.wait(async move { store.list(&path).await })?;
        let found = listed.map_err(io::Error::other)?;
        found.iter().map(|file| address_of(&of_store, &file.location)).collect()
    }

    fn read(&self, file: &RemoteFile, range: Range<u64>) -> io::Result<Vec<u8>> {
        let Place { store, path, .. } = self.place(&file.address)?;
        // A mark that is weak (RFC 9110, 8.8.1) does not distinguish bytes, and is refused as a condition.
        let mark = file.version.clone().filter(|version| version.starts_with('"'));
        let options =
            GetOptions::new().with_range(Some(GetRange::Bounded(range.clone()))).with_if_match(mark);
        let (size, given, bytes) = self.wait(async move {
            let got = store.files.get_opts(&path, options).await?;
            let (size, given) = (got.meta.size, got.range.clone());
            Ok((size, given, got.bytes().await?))
        })?;
        if size != file.bytes || given != range || bytes.len() as u64 != range.end - range.start {
            let what = format!(
                "the server gave {} bytes as {} to {} of {size}, where {} to {} of {} were asked for",
                bytes.len(),
                given.start,
                given.end,
                range.start,
                range.end,
                file.bytes
            );
            return Err(io::Error::new(io::ErrorKind::InvalidData, what));
        }
        Ok(bytes.to_vec())
    }
}

impl Store {
    /// The files of a folder, or why they are too many.
    async fn list(&self, folder: &Path) -> object_store::Result<Result<Vec<ObjectMeta>, String>> {
        let too_many = |files: usize| format!("it lists {files} files, and at most {MOST_NAMES} are read");
        let is_root = folder.as_ref().is_empty();
        let Some(pages) = &self.pages else {
            let found = self.files.list_with_delimiter((!is_root).then_some(folder)).await?.objects;
            return Ok(if found.len() > MOST_NAMES { Err(too_many(found.len())) } else { Ok(found) });
        };
        let prefix = format!("{folder}{DELIMITER}");
        let mut found = Vec::new();
        let mut next = None;
        for _ in 0..MOST_PAGES {
            let options = PaginatedListOptions {
                delimiter: Some(DELIMITER.into()),
                page_token: next,
                ..PaginatedListOptions::default()
            };
            let page = pages.list_paginated((!is_root).then_some(&prefix), options).await?;
            found.extend(page.result.objects);
            if found.len() > MOST_NAMES {
                return Ok(Err(too_many(found.len())));
            }
            next = page.page_token;
            if next.is_none() {
                return Ok(Ok(found));
            }
        }
        Ok(Err(format!("its listing goes on after {MOST_PAGES} pages")))
    }
}

impl Addresses {
    fn place(&self, address: &str) -> io::Result<Place> {
        let scheme = Scheme::of(address).ok_or(io::ErrorKind::Unsupported)?;
        let wrong =
            |what: &dyn std::fmt::Display| io::Error::new(io::ErrorKind::InvalidInput, what.to_string());
        let mut of_store = Url::parse(address).map_err(|error| wrong(&error))?;
        let path = Path::from_url_path(of_store.path()).map_err(|error| wrong(&error))?;
        of_store.set_path("/");
        let mut stores = self.stores.lock().unwrap_or_else(PoisonError::into_inner);
        let store = match stores.get(of_store.as_str()) {
            Some(store) => store.clone(),
            None => {
                let store = scheme.store(&of_store, &self.clients).map_err(|error| wrong(&error))?;
                stores.insert(of_store.to_string(), store.clone());
                store
            }
        };
        Ok(Place { store, of_store, path })
    }

    /// Waits for what a store answers.
    fn wait<T: Send + 'static>(
        &self,
        asked: impl Future<Output = object_store::Result<T>> + Send + 'static,
    ) -> io::Result<T> {
        let runtime = self.runtime.get_or_init(|| {
            Builder::new_multi_thread().worker_threads(2).thread_name("addresses").enable_all().build().ok()
        });
        let runtime = runtime.as_ref().ok_or_else(|| io::Error::other("no thread can be started"))?;
        let (tell, told) = sync_channel(1);
        runtime.spawn(async move {
            // Nothing is sent to a caller that does not wait any more.
            let _ = tell.send(asked.await);
        });
        let answer = told.recv().map_err(|_| io::Error::other("who asked for it stopped"))?;
        answer.map_err(|error| match error {
            object_store::Error::NotFound { .. } => io::Error::new(io::ErrorKind::NotFound, error),
            object_store::Error::Precondition { .. } => io::Error::other("it changed while it was read"),
            object_store::Error::PermissionDenied { .. } | object_store::Error::Unauthenticated { .. } => {
                io::Error::new(io::ErrorKind::PermissionDenied, error)
            }
            other => io::Error::other(cause_of(&other)),
        })
    }
}

/// What is after an error, without the layers that passed it on.
fn cause_of(error: &dyn std::error::Error) -> String {
    error.source().map_or_else(|| error.to_string(), cause_of)
}

/// How a store is spoken to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Scheme {
    Web,
    S3,
}

impl Scheme {
    fn of(address: &str) -> Option<Self> {
        match address.split_once("://")?.0 {
            "http" | "https" => Some(Self::Web),
            "s3" => Some(Self::S3),
            _ => None,
        }
    }

    fn store(self, of_store: &Url, clients: &WebClients) -> object_store::Result<Store> {
        // A server that is not there is reported soon.
        let backoff = BackoffConfig { max_backoff: Duration::from_secs(2), ..BackoffConfig::default() };
        let retry = RetryConfig { max_retries: 3, retry_timeout: longest_answer(), backoff };
        Ok(match self {
            Self::Web => {
                let clients = clients.with_headers(headers(of_store)?);
                let store = HttpBuilder::new().with_url(of_store.as_str()).with_retry(retry);
                let store = store.with_client_options(ClientOptions::new().with_allow_http(true));
                Store { files: Arc::new(store.with_http_connector(clients).build()?), pages: None }
            }
            Self::S3 => {
                let store = AmazonS3Builder::from_env().with_url(of_store.as_str()).with_retry(retry);
                let store = Arc::new(store.with_http_connector(clients.clone()).build()?);
                Store { files: Arc::clone(&store) as Arc<dyn ObjectStore>, pages: Some(store) }
            }
        })
    }
}

/// What lets a user read what is on a host, where the environment has it (RFC 6750).
fn headers(of_store: &Url) -> object_store::Result<HeaderMap> {
    let mut headers = HeaderMap::new();
    let tokens = std::env::var(TOKENS).unwrap_or_default();
    let host = of_store.host_str().unwrap_or_default();
    let token = tokens.split(',').filter_map(|one| one.split_once('=')).find(|(of, _)| of.trim() == host);
    if let Some((_, token)) = token {
        let wrong = |source: Box<dyn std::error::Error + Send + Sync>| object_store::Error::Generic {
            store: TOKENS,
            source,
        };
        // Whoever listens on the way would have it.
        if of_store.scheme() != "https" && !matches!(host, "localhost" | "127.0.0.1" | "[::1]") {
            return Err(wrong(format!("the token of {host} is sent to an address of https alone").into()));
        }
        let mut value =
            HeaderValue::try_from(format!("Bearer {}", token.trim())).map_err(|error| wrong(error.into()))?;
        value.set_sensitive(true);
        headers.insert("authorization", value);
    }
    Ok(headers)
}

/// What tells a state of a file from others: the mark of its bytes, or else when it was changed.
fn version_of(file: &ObjectMeta) -> Option<String> {
    Some(file.e_tag.clone().unwrap_or_else(|| file.last_modified.to_rfc3339()))
}

fn address_of(of_store: &Url, path: &Path) -> io::Result<String> {
    let mut address = of_store.clone();
    let mut parts = address.path_segments_mut().map_err(|()| io::ErrorKind::InvalidInput)?;
    parts.clear().extend(path.parts());
    drop(parts);
    Ok(address.to_string())
}
