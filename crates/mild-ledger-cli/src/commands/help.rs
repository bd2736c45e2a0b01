//! `mild help [TOPIC]`: the help of a command, or a section of the glossary.

use crate::arguments::{Arguments, HelpArguments};
use crate::ending::{Ending, Failure};
use crate::output::to_standard_output;
use crate::terminal::width;
use clap::CommandFactory;
use mild_ledger_records::nearest_word;
use mild_ledger_report::terminal;

const GLOSSARY: &str = include_str!("../../help/glossary.md");

pub(crate) fn help(arguments: &HelpArguments) -> Result<Ending, Failure> {
    let topic = arguments.topic.join(" ").trim().to_lowercase();
    to_standard_output(&text_of(&topic)?)?;
    Ok(Ending::Done)
}

fn text_of(topic: &str) -> Result<String, Failure> {
    let mut command = Arguments::command();
    if topic.is_empty() {
        let topics: Vec<String> = sections().map(|(title, _)| title.to_lowercase()).collect();
        let listed = terminal::lines(&format!("Topics of mild help: {}", topics.join(", ")), width());
        return Ok(format!("{}\n{listed}", command.render_help()));
    }
    if let Some(found) = command.find_subcommand_mut(topic) {
        return Ok(format!("{}\n", found.clone().bin_name(format!("mild {topic}")).render_long_help()));
    }
    let titles: Vec<(String, &str)> = sections().map(|(title, body)| (title.to_lowercase(), body)).collect();
    let is_it = |title: &str| title == topic;
    let begins = |title: &str| title.starts_with(topic);
    let has_it = |title: &str| title.contains(topic);
    let found = [&is_it as &dyn Fn(&str) -> bool, &begins, &has_it]
        .into_iter()
        .find_map(|fits| titles.iter().find(|(title, _)| fits(title)));
    match found {
        Some((title, body)) => Ok(terminal::section(title, body, width())),
        None => {
            let near = nearest_word(topic, titles.iter().map(|(title, _)| title.as_str()));
            Err(Failure::Request {
                what: format!("no topic or command is called \"{}\"", topic.escape_debug()),
                help: near.map_or_else(
                    || "mild help lists the topics".to_owned(),
                    |near| format!("mild help {near}; mild help lists all topics"),
                ),
            })
        }
    }
}

/// The sections of the glossary, each with its title.
fn sections() -> impl Iterator<Item = (&'static str, &'static str)> {
    GLOSSARY.split("\n## ").skip(1).filter_map(|section| section.split_once('\n'))
}
