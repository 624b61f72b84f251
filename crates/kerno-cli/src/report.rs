//! Reports of labelled values and tables, as text and as JSON.

use std::io::Write;

use kerno::base::printable;
use serde_json::{Map, Value};

use crate::commands::plain_table;
use crate::console::Console;
use crate::error::CliError;

/// A part of a report: values with labels, and a table.
pub(crate) struct Section {
    heading: String,
    key: String,
    rows: Vec<(String, Value, String)>,
    table: Option<Table>,
}

struct Table {
    columns: Vec<&'static str>,
    /// Columns set to the right.
    right: Vec<&'static str>,
    rows: Vec<Vec<Value>>,
}

impl Section {
    /// A section with a heading for people and a key for programs; without a heading its values
    /// are the report's own.
    pub(crate) fn new(heading: &str, key: &str) -> Self {
        Self {
            heading: heading.to_owned(),
            key: key.to_owned(),
            rows: Vec::new(),
            table: None,
        }
    }

    /// Adds a value.
    pub(crate) fn row(&mut self, label: &str, value: impl Into<Value>) {
        let value = value.into();
        let told = told(&value);
        self.rows.push((label.to_owned(), value, told));
    }

    /// Adds a value that people read in other words.
    pub(crate) fn row_as(&mut self, label: &str, value: impl Into<Value>, told: impl Into<String>) {
        self.rows
            .push((label.to_owned(), value.into(), told.into()));
    }

    /// Gives the section a table.
    pub(crate) fn columns(&mut self, columns: &[&'static str], right: &[&'static str]) {
        self.table = Some(Table {
            columns: columns.to_vec(),
            right: right.to_vec(),
            rows: Vec::new(),
        });
    }

    /// Adds a row to the table.
    pub(crate) fn record(&mut self, values: Vec<Value>) {
        if let Some(table) = &mut self.table {
            table.rows.push(values);
        }
    }

    fn is_empty(&self) -> bool {
        self.rows.is_empty()
            && self
                .table
                .as_ref()
                .is_none_or(|table| table.rows.is_empty())
    }

    /// Prints the section, unless nothing is in it.
    pub(crate) fn print(self, out: &mut Console) -> Result<(), CliError> {
        if self.is_empty() {
            return Ok(());
        }
        if !self.heading.is_empty() {
            writeln!(out, "\n{}", printable(&self.heading))?;
        }
        for (label, _, told) in &self.rows {
            writeln!(out, "  {:<14} {}", printable(label), printable(told))?;
        }
        if let Some(table) = &self.table {
            let mut text = plain_table(&table.columns, &table.right);
            for row in &table.rows {
                text.add_row(row.iter().map(|value| printable(&told(value)).into_owned()));
            }
            writeln!(out, "{}", text.trim_fmt())?;
        }
        self.add_json(out);
        Ok(())
    }

    fn add_json(self, out: &mut Console) {
        let mut fields = Map::new();
        for (label, value, _) in self.rows {
            fields.insert(label.replace([' ', '-'], "_"), value);
        }
        let records = self.table.map(|table| {
            let record = |row: Vec<Value>| {
                let named = table
                    .columns
                    .iter()
                    .map(|name| name.replace([' ', '-'], "_"));
                Value::Object(named.zip(row).collect())
            };
            Value::Array(table.rows.into_iter().map(record).collect())
        });
        match (records, fields.is_empty(), self.key.is_empty()) {
            (Some(records), true, _) => out.field(&self.key, records),
            (records, _, is_own) => {
                if let Some(records) = records {
                    fields.insert("entries".to_owned(), records);
                }
                match is_own {
                    true => out.fields(Value::Object(fields)),
                    false => out.field(&self.key, fields),
                }
            }
        }
    }
}

/// A number in as few digits as tell it from its neighbours: JSON knows 64 bits alone.
pub(crate) fn number(value: f32) -> Value {
    value
        .to_string()
        .parse::<f64>()
        .map_or(Value::Null, Value::from)
}

/// A value as people read it.
fn told(value: &Value) -> String {
    match value {
        Value::Null => String::new(),
        Value::String(text) => text.clone(),
        Value::Bool(true) => "yes".to_owned(),
        Value::Bool(false) => "no".to_owned(),
        value => value.to_string(),
    }
}
