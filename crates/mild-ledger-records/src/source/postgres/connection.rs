//! A connection that only reads.

use super::channel::{Channels, Protection};
use super::environment::{USER, variable};
use super::password::password_for;
use crate::error::RecordsError;
use postgres::config::{Host, SslMode, SslNegotiation};
use postgres::{CancelToken, Client, Config, NoTls};
use std::error::Error;
use std::io;
use std::net::IpAddr;
use std::path::Path;
use std::time::Duration;

/// How long a server may take to answer until its login is over.
const PATIENCE: Duration = Duration::from_secs(10);

/// Connects to the server of an address. Nothing that the connection asks for changes anything on the server.
pub(super) fn connect(address: &Path) -> Result<Client, RecordsError> {
    let mut config = config_of(address)?;
    if config.get_user().is_none()
        && let Some(user) = variable(USER).or_else(|| variable("USER"))
    {
        config.user(&user.to_string_lossy());
    }
    if let Some(password) = password_for(&config) {
        config.password(password);
    }
    config.connect_timeout(PATIENCE);
    // A server that works on a query still answers on the network. One that is gone does not.
    config.tcp_user_timeout(PATIENCE);
    config.keepalives_idle(PATIENCE);
    let connected = match channels(&config)? {
        Some(channels) => in_our_channels(&mut config).connect(channels),
        None => config.ssl_mode(SslMode::Disable).connect(NoTls),
    };
    let mut client = connected.map_err(|error| failed(address, &error))?;
    // Texts as every other format has them: ISO dates, instants in UTC, floats with the digits that they are exact to. A table
    // that another program has locked is an error in half a minute, not a run that waits without a word.
    let settings = "SET default_transaction_read_only = on; SET datestyle = 'ISO, YMD'; SET TimeZone = 'UTC'; \
                    SET extra_float_digits = 0; SET client_encoding = 'UTF8'; SET lock_timeout = '30s'";
    client.batch_execute(settings).map_err(|error| failed(address, &error))?;
    Ok(client)
}

/// Asks the server of an address to end a query. A server that cannot be asked ends it when it finds the connection closed.
pub(super) fn cancel(address: &Path, token: &CancelToken) {
    let Ok(channels) = config_of(address).and_then(|config| channels(&config)) else { return };
    let _ = match channels {
        Some(channels) => token.cancel_query(channels),
        None => token.cancel_query(NoTls),
    };
}

fn config_of(address: &Path) -> Result<Config, RecordsError> {
    let text = address.to_string_lossy();
    let config: Config = text.parse().map_err(|error: postgres::Error| failed(address, &error))?;
    if config.get_password().is_some() {
        return Err(RecordsError::request(
            "the address of the server holds a password, and is not used",
            "leave it out; PGPASSWORD or a password file (~/.pgpass) has it",
        ));
    }
    Ok(config)
}

/// The channels for a server. None for a socket of this machine's file system: nothing leaves the machine.
fn channels(config: &Config) -> Result<Option<Channels>, RecordsError> {
    #[cfg(unix)]
    if config.get_hostaddrs().is_empty()
        && config.get_hosts().iter().all(|host| matches!(host, Host::Unix(_)))
    {
        return Ok(None);
    }
    Channels::new(protection(config), PATIENCE).map(Some)
}

/// Encrypted wherever the server is not this machine, unless the address asks for the opposite.
fn protection(config: &Config) -> Protection {
    match config.get_ssl_mode() {
        SslMode::Disable => Protection::Plain,
        SslMode::Require => Protection::Encrypted,
        _ if far_host(config).is_some() => Protection::Encrypted,
        _ => Protection::Plain,
    }
}

/// The same settings for a client that leaves the beginning of a connection to our channels.
fn in_our_channels(config: &mut Config) -> &mut Config {
    // The name that a certificate is for. An address given without a name is its own.
    if config.get_hosts().is_empty() {
        for address in config.get_hostaddrs().to_vec() {
            config.host(&address.to_string());
        }
    }
    config.ssl_mode(SslMode::Require).ssl_negotiation(SslNegotiation::Direct)
}

/// A host of a server that is not this machine.
fn far_host(config: &Config) -> Option<String> {
    let named = config.get_hosts().iter().filter_map(|host| match host {
        Host::Tcp(name) => Some(name.clone()),
        #[cfg(unix)]
        Host::Unix(_) => None,
    });
    let is_near = |name: &String| {
        name == "localhost" || name.parse::<IpAddr>().is_ok_and(|address| address.is_loopback())
    };
    // An address given with a name is the one that is connected to.
    let addresses = config.get_hostaddrs();
    if !addresses.is_empty() {
        return addresses.iter().find(|address| !address.is_loopback()).map(ToString::to_string);
    }
    named.into_iter().find(|name| !is_near(name))
}

/// What went wrong at a server or on the way to it.
pub(super) fn failed(address: &Path, error: &postgres::Error) -> RecordsError {
    RecordsError::file(address, "read it")(io::Error::other(words_of(error)))
}

/// The words of a server with its details and its hint, or those of the connection with every cause.
pub(super) fn words_of(error: &postgres::Error) -> String {
    match error.as_db_error() {
        Some(answer) => {
            let more = [answer.detail(), answer.hint()].into_iter().flatten();
            more.fold(answer.message().to_owned(), |words, more| format!("{words}; {more}"))
        }
        None => {
            let causes = std::iter::successors(error.source(), |&cause| cause.source());
            causes.fold(error.to_string(), |words, cause| {
                let cause = cause.to_string();
                // An error that repeats its cause has already printed it.
                if words.ends_with(&cause) { words } else { format!("{words}: {cause}") }
            })
        }
    }
}

#[cfg(test)]
mod tests {
    use super::{Protection, far_host, protection};

    #[test]
    fn only_hosts_of_this_machine_are_near() {
        let far = |address: &str| far_host(&address.parse().unwrap());
        for near in [
            "postgresql://clerk@localhost/yard",
            "postgresql://clerk@127.0.0.1:5432/yard",
            "postgresql://clerk@[::1]/yard",
            "host=/var/run/postgresql user=clerk",
            "host=yard.example hostaddr=127.0.0.1 user=clerk",
        ] {
            assert_eq!(far(near), None, "{near}");
        }
        for (address, host) in [
            ("postgresql://clerk@yard.example/yard", "yard.example"),
            ("postgresql://clerk@localhost,yard.example/yard", "yard.example"),
            ("postgresql://clerk@127.0.0.1.example/yard", "127.0.0.1.example"),
            ("host=localhost hostaddr=192.0.2.7 user=clerk", "192.0.2.7"),
        ] {
            assert_eq!(far(address).as_deref(), Some(host), "{address}");
        }
    }

    #[test]
    fn far_hosts_are_encrypted_unless_the_address_says_otherwise() {
        let of = |address: &str| protection(&address.parse().unwrap());
        assert_eq!(of("postgresql://clerk@localhost/yard"), Protection::Plain);
        assert_eq!(of("postgresql://clerk@localhost/yard?sslmode=require"), Protection::Encrypted);
        assert_eq!(of("postgresql://clerk@yard.example/yard"), Protection::Encrypted);
        assert_eq!(of("postgresql://clerk@yard.example/yard?sslmode=prefer"), Protection::Encrypted);
        assert_eq!(of("postgresql://clerk@yard.example/yard?sslmode=disable"), Protection::Plain);
    }
}
