//! A connection that only reads.

use super::password::password_for;
use crate::error::RecordsError;
use postgres::{Client, Config, NoTls};
use std::io;
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
    if config.get_user().is_none()
        && let Ok(user) = std::env::var("PGUSER").or_else(|_| std::env::var("USER"))
    {
        config.user(&user);
    }
    if let Some(password) = password_for(&config) {
        config.password(password);
    }
    config.connect_timeout(PATIENCE);
    let mut client = config.connect(NoTls).map_err(|error| failed(address, &error))?;
    // Texts as every other format has them: ISO dates, instants in UTC, the digits that binary numbers are exact to.
    let settings = "SET default_transaction_read_only = on; SET datestyle = 'ISO, YMD'; SET TimeZone = 'UTC'; \
                    SET extra_float_digits = 0; SET client_encoding = 'UTF8'";
    client.batch_execute(settings).map_err(|error| failed(address, &error))?;
    Ok(client)
}

/// What a server or the way to it said.
pub(super) fn failed(address: &Path, error: &postgres::Error) -> RecordsError {
    let what = match error.as_db_error() {
        Some(said) => said.message().to_owned(),
        None => {
            let cause =
                std::error::Error::source(error).map(|cause| format!(": {cause}")).unwrap_or_default();
            format!("{error}{cause}")
        }
    };
    RecordsError::file(address, "read it")(io::Error::other(what))
}
