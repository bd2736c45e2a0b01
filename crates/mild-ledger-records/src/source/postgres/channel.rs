//! The channel to a server: encrypted or not, with a watch over the login and a limit on its time.
//!
//! The client is set to leave the beginning of a connection to us (`sslnegotiation=direct`), so that a connection without
//! encryption passes the watch too. The request for encryption is that of PostgreSQL's protocol (`SSLRequest`).

use super::environment;
use super::login::{LoginMethods, LoginWatch};
use crate::error::RecordsError;
use postgres::Socket;
use postgres::tls::{ChannelBinding, MakeTlsConnect, TlsConnect, TlsStream};
use rustls::pki_types::CertificateDer;
use rustls::pki_types::pem::PemObject;
use rustls::{ClientConfig, RootCertStore};
use std::io;
use std::path::Path;
use std::pin::Pin;
use std::sync::Arc;
use std::task::{Context, Poll};
use std::time::Duration;
use tokio::io::{AsyncRead, AsyncReadExt, AsyncWrite, AsyncWriteExt, ReadBuf};
use tokio::time::{Sleep, sleep, timeout};
use tokio_postgres_rustls::MakeRustlsConnect;

type Encryption = <MakeRustlsConnect as MakeTlsConnect<Socket>>::TlsConnect;
type EncryptedSocket = <MakeRustlsConnect as MakeTlsConnect<Socket>>::Stream;

/// Whether a channel is encrypted.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Protection {
    /// Encrypted (TLS 1.2 or 1.3), to a server whose certificate is for its name and comes from a trusted root.
    Encrypted,
    /// As it is.
    Plain,
}

/// Makes channels for connections and for the cancelling of queries.
#[derive(Clone)]
pub(super) struct Channels {
    encryption: Option<MakeRustlsConnect>,
    methods: LoginMethods,
    patience: Duration,
}

impl Channels {
    /// Channels with this protection, on which a server has this long to answer until its login is over.
    pub(super) fn new(protection: Protection, patience: Duration) -> Result<Self, RecordsError> {
        let encryption = match protection {
            Protection::Encrypted => Some(MakeRustlsConnect::new(client_config()?)),
            Protection::Plain => None,
        };
        Ok(Self { encryption, methods: LoginMethods::allowed()?, patience })
    }
}

fn client_config() -> Result<ClientConfig, RecordsError> {
    let provider = Arc::new(rustls::crypto::ring::default_provider());
    let config = ClientConfig::builder_with_provider(provider).with_safe_default_protocol_versions();
    let config = config.map_err(|error| RecordsError::Proof {
        what: format!("the encryption of connections cannot be set up: {error}"),
    })?;
    Ok(config.with_root_certificates(trusted_roots()?).with_no_client_auth())
}

/// The certificates that are trusted: those of a file that the environment names, or the machine's own.
fn trusted_roots() -> Result<RootCertStore, RecordsError> {
    let mut roots = RootCertStore::empty();
    let named = environment::variable(environment::ROOT_CERTIFICATES);
    let (found, place) = match &named {
        Some(file) => {
            let file = Path::new(file);
            let bytes = std::fs::read(file).map_err(RecordsError::file(file, "read its certificates"))?;
            let found =
                CertificateDer::pem_slice_iter(&bytes).collect::<Result<_, _>>().map_err(|error| {
                    let what = format!("{} holds a certificate that cannot be read: {error}", file.display());
                    RecordsError::request(what, "certificates as PEM (RFC 7468), one after the other")
                })?;
            (found, file.display().to_string())
        }
        None => (rustls_native_certs::load_native_certs().certs, "this machine".to_owned()),
    };
    let (trusted, _) = roots.add_parsable_certificates(found);
    if trusted == 0 {
        return Err(RecordsError::request(
            format!("{place} has no certificate that a server can be checked by"),
            format!(
                "{}=FILE with the root certificate of the server, as PEM",
                environment::ROOT_CERTIFICATES
            ),
        ));
    }
    Ok(roots)
}

impl MakeTlsConnect<Socket> for Channels {
    type Stream = Channel;
    type TlsConnect = ChannelTo;
    type Error = io::Error;

    fn make_tls_connect(&mut self, host: &str) -> io::Result<ChannelTo> {
        let encryption = self.encryption.as_mut();
        let encryption = encryption
            .map(|encryption| MakeTlsConnect::<Socket>::make_tls_connect(encryption, host))
            .transpose()
            .map_err(io::Error::other)?;
        Ok(ChannelTo { encryption, watch: LoginWatch::new(self.methods), patience: self.patience })
    }
}

/// What makes the channel to one server.
pub(super) struct ChannelTo {
    encryption: Option<Encryption>,
    watch: LoginWatch,
    patience: Duration,
}

impl TlsConnect<Socket> for ChannelTo {
    type Stream = Channel;
    type Error = io::Error;
    type Future = Pin<Box<dyn Future<Output = io::Result<Channel>> + Send>>;

    fn connect(self, socket: Socket) -> Self::Future {
        let Self { encryption, watch, patience } = self;
        Box::pin(async move {
            let stream = match encryption {
                None => Stream::Plain(socket),
                Some(encryption) => {
                    let encrypted = timeout(patience, encrypted(socket, encryption)).await;
                    Stream::Encrypted(encrypted.map_err(|_| no_answer(patience))??)
                }
            };
            Ok(Channel { stream, watch, patience, deadline: Box::pin(sleep(patience)) })
        })
    }
}

/// Asks a server for encryption, and encrypts.
async fn encrypted(mut socket: Socket, encryption: Encryption) -> io::Result<Box<EncryptedSocket>> {
    // Its length, and the number that means it in place of a version.
    let request = [8_u32.to_be_bytes(), 80_877_103_u32.to_be_bytes()].concat();
    socket.write_all(&request).await?;
    // One byte and no more: what came with it would not be encrypted.
    let mut answer = [0];
    socket.read_exact(&mut answer).await?;
    match answer {
        [b'S'] => Ok(Box::new(encryption.connect(socket).await?)),
        _ => Err(io::Error::other(
            "the server offers no encryption; sslmode=disable in the address allows that where the network is trusted",
        )),
    }
}

fn no_answer(patience: Duration) -> io::Error {
    let what =
        format!("the server accepts the connection and does not answer within {} s", patience.as_secs());
    io::Error::new(io::ErrorKind::TimedOut, what)
}

/// A channel to a server.
pub(super) struct Channel {
    stream: Stream,
    watch: LoginWatch,
    patience: Duration,
    deadline: Pin<Box<Sleep>>,
}

enum Stream {
    Plain(Socket),
    Encrypted(Box<EncryptedSocket>),
}

impl TlsStream for Channel {
    fn channel_binding(&self) -> ChannelBinding {
        match &self.stream {
            Stream::Plain(_) => ChannelBinding::none(),
            Stream::Encrypted(stream) => stream.channel_binding(),
        }
    }
}

impl AsyncRead for Channel {
    fn poll_read(
        mut self: Pin<&mut Self>,
        context: &mut Context<'_>,
        buffer: &mut ReadBuf<'_>,
    ) -> Poll<io::Result<()>> {
        let channel = &mut *self;
        let before = buffer.filled().len();
        let read = match &mut channel.stream {
            Stream::Plain(stream) => Pin::new(stream).poll_read(context, buffer),
            Stream::Encrypted(stream) => Pin::new(stream).poll_read(context, buffer),
        };
        match read {
            Poll::Ready(Ok(())) => {
                let new = buffer.filled().get(before..).unwrap_or_default();
                Poll::Ready(channel.watch.look(new))
            }
            Poll::Pending if !channel.watch.is_over() => {
                channel.deadline.as_mut().poll(context).map(|()| Err(no_answer(channel.patience)))
            }
            other => other,
        }
    }
}

impl AsyncWrite for Channel {
    fn poll_write(
        mut self: Pin<&mut Self>,
        context: &mut Context<'_>,
        bytes: &[u8],
    ) -> Poll<io::Result<usize>> {
        match &mut self.stream {
            Stream::Plain(stream) => Pin::new(stream).poll_write(context, bytes),
            Stream::Encrypted(stream) => Pin::new(stream).poll_write(context, bytes),
        }
    }

    fn poll_flush(mut self: Pin<&mut Self>, context: &mut Context<'_>) -> Poll<io::Result<()>> {
        match &mut self.stream {
            Stream::Plain(stream) => Pin::new(stream).poll_flush(context),
            Stream::Encrypted(stream) => Pin::new(stream).poll_flush(context),
        }
    }

    fn poll_shutdown(mut self: Pin<&mut Self>, context: &mut Context<'_>) -> Poll<io::Result<()>> {
        match &mut self.stream {
            Stream::Plain(stream) => Pin::new(stream).poll_shutdown(context),
            Stream::Encrypted(stream) => Pin::new(stream).poll_shutdown(context),
        }
    }
}
