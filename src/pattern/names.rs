//! The names of months and weekdays, in full and short, as people write them (Unicode CLDR, and what is usual next to it).

use super::language::Language;
use crate::date::Weekday;

/// For each month the ways to write it, without accents and in small letters.
type Months = [&'static str; 12];
/// The same for each weekday, Monday first.
type Weekdays = [&'static str; 7];

fn months(language: Language) -> &'static Months {
    match language {
        Language::English => &[
            "january jan",
            "february feb",
            "march mar",
            "april apr",
            "may",
            "june jun",
            "july jul",
            "august aug",
            "september sep sept",
            "october oct",
            "november nov",
            "december dec",
        ],
        Language::German => &[
            "januar janner jaenner jan",
            "februar feber feb",
            "marz maerz mrz mar maer",
            "april apr",
            "mai",
            "juni jun",
            "juli jul",
            "august aug",
            "september sep sept",
            "oktober okt",
            "november nov",
            "dezember dez",
        ],
        Language::French => &[
            "janvier janv jan",
            "fevrier fevr fev",
            "mars mar",
            "avril avr",
            "mai",
            "juin",
            "juillet juil",
            "aout aou",
            "septembre sept sep",
            "octobre oct",
            "novembre nov",
            "decembre dec",
        ],
        Language::Spanish => &[
            "enero ene",
            "febrero feb",
            "marzo mar",
            "abril abr",
            "mayo may",
            "junio jun",
            "julio jul",
            "agosto ago",
            "septiembre setiembre sept sep set",
            "octubre oct",
            "noviembre nov",
            "diciembre dic",
        ],
        Language::Italian => &[
            "gennaio gen",
            "febbraio feb",
            "marzo mar",
            "aprile apr",
            "maggio mag",
            "giugno giu",
            "luglio lug",
            "agosto ago",
            "settembre set sett",
            "ottobre ott",
            "novembre nov",
            "dicembre dic",
        ],
        Language::Dutch => &[
            "januari jan",
            "februari feb",
            "maart mrt maa",
            "april apr",
            "mei",
            "juni jun",
            "juli jul",
            "augustus aug",
            "september sep sept",
            "oktober okt",
            "november nov",
            "december dec",
        ],
        Language::Portuguese => &[
            "janeiro jan",
            "fevereiro fev",
            "marco mar",
            "abril abr",
            "maio mai",
            "junho jun",
            "julho jul",
            "agosto ago",
            "setembro set",
            "outubro out",
            "novembro nov",
            "dezembro dez",
        ],
    }
}

fn weekdays(language: Language) -> &'static Weekdays {
    match language {
        Language::English => &[
            "monday mon",
            "tuesday tue tues",
            "wednesday wed",
            "thursday thu thur thurs",
            "friday fri",
            "saturday sat",
            "sunday sun",
        ],
        Language::German => &[
            "montag mo",
            "dienstag di",
            "mittwoch mi",
            "donnerstag do",
            "freitag fr",
            "samstag sonnabend sa",
            "sonntag so",
        ],
        Language::French => &[
            "lundi lun",
            "mardi mar",
            "mercredi mer",
            "jeudi jeu",
            "vendredi ven",
            "samedi sam",
            "dimanche dim",
        ],
        Language::Spanish => &[
            "lunes lun",
            "martes mar",
            "miercoles mie",
            "jueves jue",
            "viernes vie",
            "sabado sab",
            "domingo dom",
        ],
        Language::Italian => &[
            "lunedi lun",
            "martedi mar",
            "mercoledi mer",
            "giovedi gio",
            "venerdi ven",
            "sabato sab",
            "domenica dom",
        ],
        Language::Dutch => &[
            "maandag ma",
            "dinsdag di",
            "woensdag wo",
            "donderdag do",
            "vrijdag vr",
            "zaterdag za",
            "zondag zo",
        ],
        Language::Portuguese => &[
            "segunda seg",
            "terca ter",
            "quarta qua",
            "quinta qui",
            "sexta sex",
            "sabado sab",
            "domingo dom",
        ],
    }
}

/// The month, 1 to 12, that the text begins with by its name, and what comes after the name.
pub(super) fn month_before(text: &str, language: Language) -> Option<(u8, &str)> {
    let (place, rest) = before(text, months(language))?;
    Some((u8::try_from(place + 1).ok()?, rest))
}

/// The weekday that the text begins with by its name, and what comes after the name.
pub(super) fn weekday_before(text: &str, language: Language) -> Option<(Weekday, &str)> {
    let (place, rest) = before(text, weekdays(language))?;
    // The working days of Portuguese have a second word, which many leave out.
    let ending = rest.get(..6).filter(|ending| ending.eq_ignore_ascii_case("-feira"));
    let rest = match (language, ending) {
        (Language::Portuguese, Some(_)) if place < 5 => rest.get(6..).unwrap_or_default(),
        _ => rest,
    };
    Some((*Weekday::ALL.get(place)?, rest))
}

/// The place in a list of the name that a text begins with.
fn before<'t>(text: &'t str, names: &[&str]) -> Option<(usize, &'t str)> {
    let is_letter = |sign: char| sign.is_alphabetic() || is_accent(sign);
    let end = text.find(|sign| !is_letter(sign)).unwrap_or(text.len());
    let (name, rest) = text.split_at(end);
    let folded = Folded::of(name)?;
    let name = folded.bytes();
    // All spellings of a name begin with the same letter.
    let has = |spellings: &&str| {
        spellings.as_bytes().first() == name.first()
            && spellings.split(' ').any(|spelling| spelling.as_bytes() == name)
    };
    Some((names.iter().position(has)?, rest))
}

/// A mark that comes after the letter that it belongs to.
fn is_accent(sign: char) -> bool {
    matches!(sign, '\u{300}'..='\u{36f}')
}

/// A name in small letters without accents.
struct Folded {
    bytes: [u8; LONGEST],
    length: usize,
}

/// No name is longer.
const LONGEST: usize = 16;

impl Folded {
    /// `None` for what is not a name in any of the languages.
    fn of(name: &str) -> Option<Self> {
        let mut folded = Self { bytes: [0; LONGEST], length: 0 };
        for sign in name.chars().filter(|sign| !is_accent(*sign)) {
            let letter = match sign.to_lowercase().next()? {
                small @ 'a'..='z' => small,
                'à' | 'á' | 'â' | 'ã' | 'ä' => 'a',
                'ç' => 'c',
                'è' | 'é' | 'ê' | 'ë' => 'e',
                'ì' | 'í' | 'î' | 'ï' => 'i',
                'ò' | 'ó' | 'ô' | 'õ' | 'ö' => 'o',
                'ù' | 'ú' | 'û' | 'ü' => 'u',
                _ => return None,
            };
            *folded.bytes.get_mut(folded.length)? = u8::try_from(letter).ok()?;
            folded.length += 1;
        }
        Some(folded)
    }

    fn bytes(&self) -> &[u8] {
        self.bytes.get(..self.length).unwrap_or_default()
    }
}

#[cfg(test)]
mod tests {
    use super::{Language, month_before, months, weekday_before, weekdays};

    #[test]
    fn every_spelling_is_read_as_its_own_month_and_weekday_in_any_case() {
        for language in Language::ALL {
            for (place, spellings) in (1..).zip(months(language)) {
                for spelling in spellings.split(' ') {
                    assert_eq!(spelling.get(..1), spellings.get(..1));
                    assert_eq!(month_before(spelling, language), Some((place, "")), "{spelling}");
                    let capitals = spelling.to_uppercase();
                    assert_eq!(month_before(&capitals, language), Some((place, "")), "{spelling}");
                }
            }
            for (day, spellings) in crate::date::Weekday::ALL.into_iter().zip(weekdays(language)) {
                for spelling in spellings.split(' ') {
                    assert_eq!(spelling.get(..1), spellings.get(..1));
                    assert_eq!(weekday_before(spelling, language), Some((day, "")), "{spelling}");
                }
            }
        }
    }

    #[test]
    fn accents_may_be_there_or_not_and_stand_apart() {
        for name in ["février", "FÉVRIER", "fevrier", "fe\u{301}vr"] {
            assert_eq!(month_before(name, Language::French).map(|(month, _)| month), Some(2), "{name}");
        }
        assert_eq!(month_before("März 2026", Language::German), Some((3, " 2026")));
        assert_eq!(month_before("März", Language::English), None);
        assert_eq!(month_before("Septembersummer 2026", Language::English), None);
    }
}
