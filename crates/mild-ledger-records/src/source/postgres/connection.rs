//! A connection that only reads.

use super::password::password_for;
use crate::error::RecordsError;
use postgres::config::{Host, SslMode};
use postgres::{Client, Config, NoTls};
use std::io;
use std::net::IpAddr;
use std::path::Path;
use std::time::Duration;

/// How long a server may take to answer a connection.
const PATIENCE: Duration = Duration::from_secs(10);

/// Connects to the server of an address; whatever is asked of it changes nothing there.
pub(super) fn connect(address: &Path) -> Result<Client, RecordsError> {
    let text = address.to_string_lossy();
    let mut config: Config = text.parse().map_err(|error: postgres::Error| failed(address, &error))?;
    if config.get_password().is_some() {
        return Err(RecordsError::request(
            "the address of the server holds a password, and is not used",
            "leave it out; PGPASSWORD or a password file (~/.pgpass) has it",
        ));
    }
    if let Some(host) = far_host(&config).filter(|_| config.get_ssl_mode() != SslMode::Disable) {
        return Err(RecordsError::request(
            format!("{host} is not this machine, and what is sent to it and back would not be encrypted"),
            "a server of this machine, a tunnel to it, or sslmode=disable in the address where the network is trusted",
        ));
    }
    if config.get_user().is_none()
        && let Ok(user) = std::env::var("PGUSER").or_else(|_| std::env::var("USER"))
    {
        config.user(&user);
    }
    if let Some(password) = password_for(&config) {
        config.password(password);
    }
    config.connect_timeout(PATIENCE);
    // A server that works on a query answers its machine all the same; one that is gone does not.
    config.tcp_user_timeout(PATIENCE);
    config.keepalives_idle(PATIENCE);
    let mut client = config.connect(NoTls).map_err(|error| failed(address, &error))?;
    // Texts as every other format has them: ISO dates, instants in UTC, the digits that binary numbers are exact to.
    let settings = "SET default_transaction_read_only = on; SET datestyle = 'ISO, YMD'; SET TimeZone = 'UTC'; \
                    SET extra_float_digits = 0; SET client_encoding = 'UTF8'";
    client.batch_execute(settings).map_err(|error| failed(address, &error))?;
    Ok(client)
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

/// What a server or the way to it said.
pub(super) fn failed(address: &Path, error: &postgres::Error) -> RecordsError {
    RecordsError::file(address, "read it")(io::Error::other(words_of(error)))
}

/// The words of a server with its details and its hint, or of the way to it.
pub(super) fn words_of(error: &postgres::Error) -> String {
    match error.as_db_error() {
        Some(said) => {
            let more = [said.detail(), said.hint()].into_iter().flatten();
            more.fold(said.message().to_owned(), |words, more| format!("{words}; {more}"))
        }
        None => {
            let cause =
                std::error::Error::source(error).map(|cause| format!(": {cause}")).unwrap_or_default();
            format!("{error}{cause}")
        }
    }
}

#[cfg(test)]
mod tests {
    use super::far_host;

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
}
