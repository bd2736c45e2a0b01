//! Passwords, from the environment or from a password file, and never from a plan.

use postgres::Config;
use postgres::config::Host;
use std::path::PathBuf;

/// The password for an address, if one is kept for it.
pub(super) fn password_for(config: &Config) -> Option<String> {
    if let Ok(password) = std::env::var("PGPASSWORD") {
        return Some(password);
    }
    let named = named_file().or_else(|| std::env::var_os("PGPASSFILE").map(PathBuf::from));
    let file = named.or_else(|| Some(PathBuf::from(std::env::var_os("HOME")?).join(".pgpass")))?;
    if is_open_to_others(&file) {
        return None;
    }
    let text = std::fs::read_to_string(file).ok()?;
    let host = match config.get_hosts().first() {
        Some(Host::Tcp(name)) => name.clone(),
        _ => "localhost".to_owned(),
    };
    let port = config.get_ports().first().map_or_else(|| "5432".to_owned(), u16::to_string);
    let user = config.get_user().unwrap_or_default();
    let wanted = [host.as_str(), port.as_str(), config.get_dbname().unwrap_or(user), user];
    text.lines().find_map(|line| password_of_line(line, wanted))
}

/// The password file of a test, whose process has an environment that others share.
#[cfg(test)]
static OF_A_TEST: std::sync::Mutex<Option<PathBuf>> = std::sync::Mutex::new(None);

#[cfg(test)]
fn named_file() -> Option<PathBuf> {
    OF_A_TEST.lock().ok()?.clone()
}

#[cfg(not(test))]
fn named_file() -> Option<PathBuf> {
    None
}

/// Does something while the password file is this one; who asks for another waits.
#[cfg(test)]
pub(super) fn with_file<T>(file: &std::path::Path, then: impl FnOnce() -> T) -> T {
    static ONE_AT_A_TIME: std::sync::Mutex<()> = std::sync::Mutex::new(());
    let _guard = ONE_AT_A_TIME.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
    if let Ok(mut named) = OF_A_TEST.lock() {
        *named = Some(file.to_owned());
    }
    then()
}

/// A password file that others may read is not used, as the server's own programs do not.
fn is_open_to_others(file: &std::path::Path) -> bool {
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        std::fs::metadata(file).is_ok_and(|facts| facts.permissions().mode() & 0o077 != 0)
    }
    #[cfg(not(unix))]
    {
        let _ = file;
        false
    }
}

/// The password of a line `host:port:database:user:password` that is for this address; a star stands for anything.
fn password_of_line(line: &str, wanted: [&str; 4]) -> Option<String> {
    if line.starts_with('#') {
        return None;
    }
    let mut fields = vec![String::new()];
    let mut signs = line.chars();
    while let Some(sign) = signs.next() {
        match sign {
            '\\' => fields.last_mut()?.extend(signs.next()),
            ':' if fields.len() < 5 => fields.push(String::new()),
            sign => fields.last_mut()?.push(sign),
        }
    }
    let [host, port, database, user, password] = <[String; 5]>::try_from(fields).ok()?;
    let is_for = |(field, wanted): (&String, &str)| field == "*" || field == wanted;
    [&host, &port, &database, &user].into_iter().zip(wanted).all(is_for).then_some(password)
}

#[cfg(test)]
mod tests {
    use super::password_of_line;

    #[test]
    fn a_line_is_for_its_address_alone() {
        let wanted = ["127.0.0.1", "5432", "yard", "clerk"];
        let found = |line: &str| password_of_line(line, wanted);
        assert_eq!(found("127.0.0.1:5432:yard:clerk:secret").as_deref(), Some("secret"));
        assert_eq!(found("*:*:*:clerk:a:b\\\\c").as_deref(), Some("a:b\\c"));
        assert_eq!(found("*:*:other:clerk:secret"), None);
        assert_eq!(found("# *:*:*:*:secret"), None);
        assert_eq!(found("*:*:*:secret"), None);
    }
}
