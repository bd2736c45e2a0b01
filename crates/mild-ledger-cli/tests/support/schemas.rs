//! The published schemas, and plans as the objects that they describe.

use serde_json::Value;

/// A published schema, ready to be held against objects.
pub struct Schema {
    schemas: boon::Schemas,
    compiled: boon::SchemaIndex,
}

/// The text of a published schema.
pub fn schema(name: &str) -> Value {
    let file = format!("{}/../../docs/schemas/{name}.schema.json", env!("CARGO_MANIFEST_DIR"));
    serde_json::from_str(&std::fs::read_to_string(file).unwrap()).unwrap()
}

impl Schema {
    pub fn of(name: &str) -> Self {
        let mut compiler = boon::Compiler::new();
        compiler.add_resource("schema.json", schema(name)).unwrap();
        let mut schemas = boon::Schemas::new();
        let compiled = compiler.compile("schema.json", &mut schemas).unwrap();
        Self { schemas, compiled }
    }

    /// What it finds wrong with an object; `None` where nothing is.
    pub fn faults(&self, object: &Value) -> Option<String> {
        self.schemas.validate(object, self.compiled).err().map(|error| error.to_string())
    }
}

/// A plan or a calendar as JSON: dates of TOML become their text. `None` of a text that is not TOML.
pub fn json_of(text: &str) -> Option<Value> {
    fn of(value: &toml::Value) -> Value {
        match value {
            toml::Value::String(text) => Value::from(text.as_str()),
            toml::Value::Integer(number) => Value::from(*number),
            toml::Value::Float(number) => Value::from(*number),
            toml::Value::Boolean(yes) => Value::from(*yes),
            toml::Value::Datetime(date) => Value::from(date.to_string()),
            toml::Value::Array(items) => items.iter().map(of).collect(),
            toml::Value::Table(table) => table.iter().map(|(key, value)| (key.clone(), of(value))).collect(),
        }
    }
    text.parse().ok().map(|table| of(&toml::Value::Table(table)))
}
