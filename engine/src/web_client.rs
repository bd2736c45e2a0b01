//! The client that asks servers for files: where it may be led, how long it waits, and how much of a listing it takes.

use async_trait::async_trait;
use http_body_util::{BodyExt, Limited};
use object_store::client::{
    HttpClient, HttpConnector, HttpError, HttpErrorKind, HttpRequest, HttpResponse, HttpResponseBody,
    HttpService,
};
use object_store::{ClientConfigKey, ClientOptions, HeaderMap};
use reqwest::redirect::{Attempt, Policy};
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use url::Url;

/// Other origins that an address may lead to: hosts, with a port where it is not that of the scheme, several of them separated by commas.
const REDIRECTS: &str = "MILD_ADDRESS_REDIRECTS";
/// How many seconds a server may take for one answer, its body included.
const SECONDS: &str = "MILD_ADDRESS_SECONDS";
/// The same where nothing is stated: enough for some megabytes.
const SECONDS_BY_DEFAULT: u64 = 120;
/// How long a server may take to be reached.
const CONNECT: Duration = Duration::from_secs(5);
/// The most bytes of one answer: a part of a file is smaller, and so is a listing of ten thousand names.
const MOST_BYTES: usize = 32 << 20;
/// How often an address may lead to another.
const MOST_REDIRECTS: usize = 5;

/// Makes clients that remember where they were led.
#[derive(Debug, Clone, Default)]
pub(crate) struct WebClients {
    /// For an address the one that it led to.
    led: Arc<Mutex<HashMap<String, String>>>,
    pub(crate) headers: HeaderMap,
}

/// How long one answer may take, as the environment says.
pub(crate) fn longest_answer() -> Duration {
    let stated = std::env::var(SECONDS).ok().and_then(|seconds| seconds.parse().ok());
    Duration::from_secs(stated.filter(|seconds| *seconds > 0).unwrap_or(SECONDS_BY_DEFAULT))
}

impl WebClients {
    /// Where an address led when it was asked for last.
    pub(crate) fn led_to(&self, address: &str) -> Option<String> {
        self.led.lock().unwrap_or_else(PoisonError::into_inner).get(address).cloned()
    }

    /// The same clients with headers that every request has.
    pub(crate) fn with_headers(&self, headers: HeaderMap) -> Self {
        Self { led: Arc::clone(&self.led), headers }
    }

    fn redirects(&self) -> Policy {
        let led = Arc::clone(&self.led);
        Policy::custom(move |attempt| {
            let Some(asked) = attempt.previous().first().cloned() else { return attempt.stop() };
            if attempt.previous().len() > MOST_REDIRECTS {
                return attempt
                    .error(Refused(format!("{asked} leads from one address to another without an end")));
            }
            if !may_lead(&asked, &attempt) {
                let what = format!(
                    "{asked} leads to another origin, {}; name that address, or allow it: {REDIRECTS}={}",
                    attempt.url().origin().ascii_serialization(),
                    authority(attempt.url())
                );
                return attempt.error(Refused(what));
            }
            let mut led = led.lock().unwrap_or_else(PoisonError::into_inner);
            led.insert(asked.to_string(), attempt.url().to_string());
            drop(led);
            attempt.follow()
        })
    }
}

/// Why an address was not followed.
#[derive(Debug)]
struct Refused(String);

impl std::fmt::Display for Refused {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(&self.0)
    }
}

impl std::error::Error for Refused {}

/// Whether an address may lead there: to its own origin (RFC 6454), or to one that the environment allows.
fn may_lead(asked: &Url, attempt: &Attempt<'_>) -> bool {
    if asked.origin() == attempt.url().origin() {
        return true;
    }
    // A server that can be trusted leads to none that everybody on the way can change.
    let keeps_encryption = asked.scheme() != "https" || attempt.url().scheme() == "https";
    let allowed = std::env::var(REDIRECTS).unwrap_or_default();
    let there = authority(attempt.url());
    keeps_encryption && allowed.split(',').any(|one| one.trim() == there)
}

/// The host, and the port where it is not that of the scheme.
fn authority(url: &Url) -> String {
    let host = url.host_str().unwrap_or_default();
    url.port().map_or_else(|| host.to_owned(), |port| format!("{host}:{port}"))
}

impl HttpConnector for WebClients {
    fn connect(&self, options: &ClientOptions) -> object_store::Result<HttpClient> {
        let plain = options.get_config_value(&ClientConfigKey::AllowHttp);
        let client = reqwest::Client::builder()
            .connect_timeout(CONNECT)
            .timeout(longest_answer())
            .default_headers(self.headers.clone())
            .redirect(self.redirects())
            .https_only(plain.as_deref() != Some("true"))
            .build();
        let client = client
            .map_err(|error| object_store::Error::Generic { store: "web client", source: Box::new(error) })?;
        Ok(HttpClient::new(Bounded(client)))
    }
}

/// A client that takes no more than some bytes of an answer.
#[derive(Debug)]
struct Bounded(reqwest::Client);

#[async_trait]
impl HttpService for Bounded {
    async fn call(&self, request: HttpRequest) -> Result<HttpResponse, HttpError> {
        let (parts, body) = self.0.call(request).await?.into_parts();
        let too_long = |error: Box<dyn std::error::Error + Send + Sync>| match error.downcast::<HttpError>() {
            Ok(error) => *error,
            Err(_) => {
                let what = format!("the answer has more than {MOST_BYTES} bytes");
                HttpError::new(HttpErrorKind::Decode, Refused(what))
            }
        };
        let bounded = Limited::new(body, MOST_BYTES).map_err(too_long);
        Ok(HttpResponse::from_parts(parts, HttpResponseBody::new(bounded)))
    }
}
