//! The login at a server: which ways of sending a password are allowed, and a watch over what the server asks for.
//!
//! The client answers whatever the server asks for, the password in clear text included. So the watch reads the messages of
//! the server before the client does (PostgreSQL's frontend/backend protocol 3.0), and ends a login that is not allowed.

use super::environment;
use crate::error::RecordsError;
use std::io;

/// The ways of sending a password that are allowed, besides none.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct LoginMethods {
    clear_text: Allowed,
    md5: Allowed,
    scram: Allowed,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Allowed {
    Yes,
    No,
}

impl LoginMethods {
    /// SCRAM alone (RFC 7677): it never sends the password, nor anything that serves to find it.
    const SCRAM: Self = Self { clear_text: Allowed::No, md5: Allowed::No, scram: Allowed::Yes };

    /// The methods that the environment names; SCRAM alone where it names none.
    pub(super) fn allowed() -> Result<Self, RecordsError> {
        match environment::variable(environment::LOGIN_METHODS) {
            None => Ok(Self::SCRAM),
            Some(words) => Self::of_words(&words.to_string_lossy()),
        }
    }

    fn of_words(words: &str) -> Result<Self, RecordsError> {
        let mut methods = Self { scram: Allowed::No, ..Self::SCRAM };
        for word in words.split(',').map(str::trim).filter(|word| !word.is_empty()) {
            let method = match word {
                "password" => &mut methods.clear_text,
                "md5" => &mut methods.md5,
                "scram-sha-256" => &mut methods.scram,
                _ => {
                    return Err(RecordsError::request(
                        format!(
                            "{}: \"{}\" is not a method of login",
                            environment::LOGIN_METHODS,
                            word.escape_debug()
                        ),
                        "scram-sha-256, md5 or password, or several with commas",
                    ));
                }
            };
            *method = Allowed::Yes;
        }
        if methods == (Self { scram: Allowed::No, ..Self::SCRAM }) {
            return Ok(Self::SCRAM);
        }
        Ok(methods)
    }

    /// Whether a server may ask for a password by a method of the protocol.
    fn check(self, code: u32) -> Result<(), String> {
        let (allowed, method, word) = match code {
            3 => (self.clear_text, "asks for the password in clear text", "password"),
            5 => (self.md5, "asks for the password under MD5, which protects nothing", "md5"),
            // SASL: the offer, its continuation and its end.
            10..=12 => (self.scram, "offers SCRAM", "scram-sha-256"),
            _ => {
                return Err(format!(
                    "the server asks for a login by method {code} of its protocol, which is not supported"
                ));
            }
        };
        match allowed {
            Allowed::Yes => Ok(()),
            Allowed::No => Err(format!(
                "the server {method}, and the password is not sent; {}={word} allows it",
                environment::LOGIN_METHODS
            )),
        }
    }
}

/// Reads what a server sends until its login is over.
#[derive(Debug)]
pub(super) struct LoginWatch {
    methods: LoginMethods,
    /// The beginning of a message: its letter, its length, and the method if it is about the login.
    beginning: Vec<u8>,
    /// Bytes of the message that are still to come and do not matter.
    to_skip: u32,
    is_over: bool,
}

/// The letter of a message about the login.
const ABOUT_LOGIN: u8 = b'R';

impl LoginWatch {
    pub(super) fn new(methods: LoginMethods) -> Self {
        Self { methods, beginning: Vec::new(), to_skip: 0, is_over: false }
    }

    /// Whether the server has accepted the login.
    pub(super) fn is_over(&self) -> bool {
        self.is_over
    }

    /// Looks at the next bytes of the server.
    ///
    /// # Errors
    /// If the server asks for a password in a way that is not allowed, or breaks the protocol.
    pub(super) fn look(&mut self, mut bytes: &[u8]) -> io::Result<()> {
        let broken =
            || io::Error::new(io::ErrorKind::InvalidData, "the server breaks the protocol of its login");
        while let (false, Some((byte, rest))) = (self.is_over, bytes.split_first()) {
            if self.to_skip > 0 {
                let skipped = bytes.len().min(usize::try_from(self.to_skip).unwrap_or(usize::MAX));
                bytes = bytes.get(skipped..).unwrap_or_default();
                self.to_skip = self.to_skip.saturating_sub(u32::try_from(skipped).unwrap_or(u32::MAX));
                continue;
            }
            self.beginning.push(*byte);
            bytes = rest;
            let (length, method) = match self.beginning[..] {
                [ABOUT_LOGIN, a, b, c, d, e, f, g, h] => {
                    (u32::from_be_bytes([a, b, c, d]), Some(u32::from_be_bytes([e, f, g, h])))
                }
                [letter, a, b, c, d] if letter != ABOUT_LOGIN => (u32::from_be_bytes([a, b, c, d]), None),
                _ => continue,
            };
            self.beginning.clear();
            // The length counts itself, and the method after it.
            let counted = if method.is_some() { 8 } else { 4 };
            self.to_skip = length.checked_sub(counted).ok_or_else(broken)?;
            match method {
                Some(0) => self.is_over = true,
                Some(method) => self.methods.check(method).map_err(io::Error::other)?,
                None => {}
            }
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::{LoginMethods, LoginWatch};
    use proptest::prelude::*;

    fn message(letter: u8, body: &[u8]) -> Vec<u8> {
        let length = u32::try_from(body.len() + 4).unwrap();
        [&[letter][..], &length.to_be_bytes(), body].concat()
    }

    fn asks_for(method: u32) -> Vec<u8> {
        message(b'R', &[&method.to_be_bytes()[..], b"salt"].concat())
    }

    proptest! {
        /// However the bytes are cut, a login that is not allowed ends before its message does.
        #[test]
        fn what_is_not_allowed_never_comes_through(
            method in prop_oneof![Just(3_u32), Just(5), Just(6), Just(9), 13_u32..],
            notices in prop::collection::vec(prop::collection::vec(any::<u8>(), 0..20), 0..4),
            piece in 1_usize..12,
        ) {
            let mut bytes: Vec<u8> = notices.iter().flat_map(|notice| message(b'N', notice)).collect();
            bytes.extend(asks_for(10));
            bytes.extend(asks_for(method));
            let mut watch = LoginWatch::new(LoginMethods::SCRAM);
            prop_assert!(bytes.chunks(piece).any(|piece| watch.look(piece).is_err()));
        }

        /// What follows an accepted login is not looked at, whatever it is.
        #[test]
        fn an_accepted_login_is_the_end(more in prop::collection::vec(any::<u8>(), 0..60), piece in 1_usize..12) {
            let bytes = [asks_for(10), asks_for(11), asks_for(12), message(b'R', &[0; 4]), more].concat();
            let mut watch = LoginWatch::new(LoginMethods::SCRAM);
            for piece in bytes.chunks(piece) {
                prop_assert!(watch.look(piece).is_ok());
            }
            prop_assert!(watch.is_over());
        }
    }

    #[test]
    fn the_environment_names_methods() {
        let of = |words: &str| LoginMethods::of_words(words);
        assert_eq!(of("").unwrap(), LoginMethods::SCRAM);
        assert_eq!(of("scram-sha-256").unwrap(), LoginMethods::SCRAM);
        assert!(of("md5, scram-sha-256").unwrap().check(5).is_ok());
        assert!(of("md5").unwrap().check(10).is_err());
        assert!(of("password").unwrap().check(3).is_ok());
        assert!(of("none of these").unwrap_err().to_string().contains("is not a method of login"));
    }

    #[test]
    fn a_length_too_short_is_an_error() {
        let mut watch = LoginWatch::new(LoginMethods::SCRAM);
        assert!(watch.look(&[b'R', 0, 0, 0, 7, 0, 0, 0, 0]).is_err());
    }
}
