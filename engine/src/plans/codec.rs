//! Our nodes as bytes for the other processes of a cluster, and back; all others are left to the codec of the cluster.

use super::does::Does;
use super::exec::NodeExec;
use super::failures::within;
use super::nodes::PlanNode;
use super::part::{Part, Sent};
use super::pieces::PiecesTable;
use datafusion::arrow::datatypes::SchemaRef;
use datafusion::catalog::TableProvider;
use datafusion::common::TableReference;
use datafusion::datasource::file_format::FileFormatFactory;
use datafusion::error::{DataFusionError, Result};
use datafusion::execution::TaskContext;
use datafusion::logical_expr::{AggregateUDF, Extension, LogicalPlan, ScalarUDF, WindowUDF};
use datafusion::physical_plan::ExecutionPlan;
use datafusion_proto::logical_plan::LogicalExtensionCodec;
use datafusion_proto::physical_plan::{PhysicalExtensionCodec, PhysicalProtoConverterExtension};
use mild_ledger_records::{Piece, RecordsError};
use serde::Serialize;
use serde::de::DeserializeOwned;
use std::sync::Arc;

/// What the bytes of our nodes begin with, whatever the version; the version and a line feed follow.
const OURS: &[u8] = b"mild-ledger ";
/// The version of this process.
const VERSION: &str = env!("CARGO_PKG_VERSION");

/// Nodes of logical plans. All others, functions and file formats are left to another codec.
#[derive(Debug)]
pub struct PlanLogicalCodec {
    others: Arc<dyn LogicalExtensionCodec>,
}

/// Nodes of physical plans; all others are left to another codec.
#[derive(Debug)]
pub struct PlanPhysicalCodec {
    others: Arc<dyn PhysicalExtensionCodec>,
}

impl PlanLogicalCodec {
    /// Next to another codec.
    #[must_use]
    pub fn beside(others: Arc<dyn LogicalExtensionCodec>) -> Self {
        Self { others }
    }
}

impl PlanPhysicalCodec {
    /// Next to another codec.
    #[must_use]
    pub fn beside(others: Arc<dyn PhysicalExtensionCodec>) -> Self {
        Self { others }
    }
}

fn put(value: &impl Serialize, buffer: &mut Vec<u8>) -> Result<()> {
    buffer.extend_from_slice(OURS);
    buffer.extend_from_slice(VERSION.as_bytes());
    buffer.push(b'\n');
    let bytes = postcard::to_stdvec(value).map_err(|error| broken(&error))?;
    buffer.extend_from_slice(&bytes);
    Ok(())
}

/// What is in our bytes; none where they are another user's.
fn taken<T: DeserializeOwned>(buffer: &[u8]) -> Result<Option<T>> {
    let Some(of_any_version) = buffer.strip_prefix(OURS) else { return Ok(None) };
    let end = of_any_version.iter().position(|byte| *byte == b'\n').unwrap_or(of_any_version.len());
    let (version, bytes) = of_any_version.split_at(end);
    if version != VERSION.as_bytes() {
        return Err(within(RecordsError::Request {
            what: format!(
                "a job of mild-engine {} came to a process of mild-engine {VERSION}",
                String::from_utf8_lossy(version).escape_debug()
            ),
            help: "install one version for the scheduler, its executors and every run".to_owned(),
        }));
    }
    let bytes = bytes.get(1..).unwrap_or_default();
    postcard::from_bytes(bytes).map(Some).map_err(|error| broken(&error))
}

fn broken(error: &postcard::Error) -> DataFusionError {
    DataFusionError::Internal(format!(
        "a node of a plan does not come through: {error}; all processes of a cluster are of one version"
    ))
}

fn one<T: Clone>(inputs: &[T]) -> Result<T> {
    let lacks = || DataFusionError::Internal("a node of a plan came without its input".to_owned());
    inputs.first().cloned().ok_or_else(lacks)
}

impl LogicalExtensionCodec for PlanLogicalCodec {
    fn try_decode(&self, buffer: &[u8], inputs: &[LogicalPlan], context: &TaskContext) -> Result<Extension> {
        let Some((does, sent)) = taken::<(Does, Sent)>(buffer)? else {
            return self.others.try_decode(buffer, inputs, context);
        };
        Ok(Extension { node: Arc::new(PlanNode::new(does, Part::sent(sent), one(inputs)?)?) })
    }

    fn try_encode(&self, node: &Extension, buffer: &mut Vec<u8>) -> Result<()> {
        match node.node.as_any().downcast_ref::<PlanNode>() {
            Some(node) => put(&(node.does, node.part.to_send()), buffer),
            None => self.others.try_encode(node, buffer),
        }
    }

    fn try_decode_table_provider(
        &self,
        buffer: &[u8],
        name: &TableReference,
        schema: SchemaRef,
        context: &TaskContext,
    ) -> Result<Arc<dyn TableProvider>> {
        let Some(partitions) = taken::<Vec<Vec<Piece>>>(buffer)? else {
            return self.others.try_decode_table_provider(buffer, name, schema, context);
        };
        Ok(Arc::new(PiecesTable { partitions }))
    }

    fn try_encode_table_provider(
        &self,
        name: &TableReference,
        table: Arc<dyn TableProvider>,
        buffer: &mut Vec<u8>,
    ) -> Result<()> {
        let any: &dyn std::any::Any = table.as_ref();
        match any.downcast_ref::<PiecesTable>() {
            Some(table) => put(&table.partitions, buffer),
            None => self.others.try_encode_table_provider(name, table, buffer),
        }
    }

    fn try_decode_file_format(
        &self,
        buffer: &[u8],
        context: &TaskContext,
    ) -> Result<Arc<dyn FileFormatFactory>> {
        self.others.try_decode_file_format(buffer, context)
    }

    fn try_encode_file_format(&self, buffer: &mut Vec<u8>, node: Arc<dyn FileFormatFactory>) -> Result<()> {
        self.others.try_encode_file_format(buffer, node)
    }

    fn try_decode_udf(&self, name: &str, buffer: &[u8]) -> Result<Arc<ScalarUDF>> {
        self.others.try_decode_udf(name, buffer)
    }

    fn try_encode_udf(&self, node: &ScalarUDF, buffer: &mut Vec<u8>) -> Result<()> {
        self.others.try_encode_udf(node, buffer)
    }

    fn try_decode_udaf(&self, name: &str, buffer: &[u8]) -> Result<Arc<AggregateUDF>> {
        self.others.try_decode_udaf(name, buffer)
    }

    fn try_encode_udaf(&self, node: &AggregateUDF, buffer: &mut Vec<u8>) -> Result<()> {
        self.others.try_encode_udaf(node, buffer)
    }

    fn try_decode_udwf(&self, name: &str, buffer: &[u8]) -> Result<Arc<WindowUDF>> {
        self.others.try_decode_udwf(name, buffer)
    }

    fn try_encode_udwf(&self, node: &WindowUDF, buffer: &mut Vec<u8>) -> Result<()> {
        self.others.try_encode_udwf(node, buffer)
    }
}

impl PhysicalExtensionCodec for PlanPhysicalCodec {
    fn try_decode(
        &self,
        buffer: &[u8],
        inputs: &[Arc<dyn ExecutionPlan>],
        context: &TaskContext,
        converter: &dyn PhysicalProtoConverterExtension,
    ) -> Result<Arc<dyn ExecutionPlan>> {
        let Some((does, sent)) = taken::<(Does, Sent)>(buffer)? else {
            return self.others.try_decode(buffer, inputs, context, converter);
        };
        Ok(Arc::new(NodeExec::new(does, Part::sent(sent), one(inputs)?)))
    }

    fn try_encode(
        &self,
        node: Arc<dyn ExecutionPlan>,
        buffer: &mut Vec<u8>,
        converter: &dyn PhysicalProtoConverterExtension,
    ) -> Result<()> {
        let any: &dyn std::any::Any = node.as_ref();
        if let Some(node) = any.downcast_ref::<NodeExec>() {
            return put(&(node.does, node.part.to_send()), buffer);
        }
        self.others.try_encode(node, buffer, converter)
    }

    fn try_decode_udf(&self, name: &str, buffer: &[u8]) -> Result<Arc<ScalarUDF>> {
        self.others.try_decode_udf(name, buffer)
    }

    fn try_encode_udf(&self, node: &ScalarUDF, buffer: &mut Vec<u8>) -> Result<()> {
        self.others.try_encode_udf(node, buffer)
    }

    fn try_decode_udaf(&self, name: &str, buffer: &[u8]) -> Result<Arc<AggregateUDF>> {
        self.others.try_decode_udaf(name, buffer)
    }

    fn try_encode_udaf(&self, node: &AggregateUDF, buffer: &mut Vec<u8>) -> Result<()> {
        self.others.try_encode_udaf(node, buffer)
    }

    fn try_decode_udwf(&self, name: &str, buffer: &[u8]) -> Result<Arc<WindowUDF>> {
        self.others.try_decode_udwf(name, buffer)
    }

    fn try_encode_udwf(&self, node: &WindowUDF, buffer: &mut Vec<u8>) -> Result<()> {
        self.others.try_encode_udwf(node, buffer)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_job_of_another_version_is_refused_by_name() {
        let mut bytes = Vec::new();
        put(&7_u8, &mut bytes).unwrap();
        assert_eq!(taken::<u8>(&bytes).unwrap(), Some(7));
        let other = bytes.iter().skip(OURS.len() + VERSION.len()).copied();
        let other: Vec<u8> = OURS.iter().chain(b"9.9.9").copied().chain(other).collect();
        let said = taken::<u8>(&other).unwrap_err().to_string();
        assert!(said.contains("a job of mild-engine 9.9.9 came to a process of mild-engine"), "{said}");
        assert_eq!(taken::<u8>(b"another codec").unwrap(), None);
    }
}
