//! The environment variables that a connection obeys, by the names that PostgreSQL's own programs use.

use std::ffi::OsString;

/// A user name, where the address has none.
pub(super) const USER: &str = "PGUSER";
/// The password.
pub(super) const PASSWORD: &str = "PGPASSWORD";
/// A file of passwords, in place of `~/.pgpass`.
pub(super) const PASSWORD_FILE: &str = "PGPASSFILE";
/// The ways in which a password may be sent.
pub(super) const LOGIN_METHODS: &str = "PGREQUIREAUTH";
/// A file of the certificates that are trusted, in place of the machine's own.
pub(super) const ROOT_CERTIFICATES: &str = "PGSSLROOTCERT";

/// The value of a variable, if it has one.
pub(super) fn variable(name: &str) -> Option<OsString> {
    #[cfg(test)]
    if let Some(value) = of_a_test::value(name) {
        return Some(value);
    }
    std::env::var_os(name)
}

#[cfg(test)]
pub(super) use of_a_test::with_variables;

/// Variables of one test: the environment of its process belongs to all tests.
#[cfg(test)]
mod of_a_test {
    use std::ffi::OsString;
    use std::sync::{Mutex, PoisonError};

    static VALUES: Mutex<Vec<(String, OsString)>> = Mutex::new(Vec::new());

    pub(super) fn value(name: &str) -> Option<OsString> {
        let values = VALUES.lock().unwrap_or_else(PoisonError::into_inner);
        values.iter().find(|(known, _)| known == name).map(|(_, value)| value.clone())
    }

    /// Does something while these variables have these values. A second caller waits for the first.
    pub(in super::super) fn with_variables<T>(values: &[(&str, OsString)], then: impl FnOnce() -> T) -> T {
        static ONE_AT_A_TIME: Mutex<()> = Mutex::new(());
        let _guard = ONE_AT_A_TIME.lock().unwrap_or_else(PoisonError::into_inner);
        let set = |values: &[(&str, OsString)]| {
            let values = values.iter().map(|(name, value)| ((*name).to_owned(), value.clone()));
            *VALUES.lock().unwrap_or_else(PoisonError::into_inner) = values.collect();
        };
        set(values);
        let given = then();
        set(&[]);
        given
    }
}
