//! Passwords, from the environment or from a password file, and never from a plan.

use super::environment::{PASSWORD, PASSWORD_FILE, variable};
use postgres::Config;
use postgres::config::Host;
use std::path::PathBuf;

/// The password for an address, if one is kept for it.
pub(super) fn password_for(config: &Config) -> Option<String> {
    if let Some(password) = variable(PASSWORD) {
        return password.into_string().ok();
    }
    let named = variable(PASSWORD_FILE).map(PathBuf::from);
    let file = named.or_else(|| Some(PathBuf::from(variable("HOME")?).join(".pgpass")))?;
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

/// The password of a line `host:port:database:user:password` that is for this address; a star means any text.
fn password_of_line(line: &str, wanted: [&str; 4]) -> Option<String> {
    if line.starts_with('#') {
        return None;
    }
    let mut fields = vec![String::new()];
    let mut characters = line.chars();
    while let Some(character) = characters.next() {
        match character {
            '\\' => fields.last_mut()?.extend(characters.next()),
            ':' if fields.len() < 5 => fields.push(String::new()),
            character => fields.last_mut()?.push(character),
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
