//! The pieces of the records as a table of the engine, a row each, which its processes share out as they do any table.

use super::failures::within;
use async_trait::async_trait;
use datafusion::arrow::array::{Array, LargeBinaryArray, RecordBatch};
use datafusion::arrow::datatypes::{DataType, Field, Schema, SchemaRef};
use datafusion::catalog::{Session, TableProvider};
use datafusion::datasource::TableType;
use datafusion::datasource::memory::MemorySourceConfig;
use datafusion::error::{DataFusionError, Result};
use datafusion::logical_expr::Expr;
use datafusion::physical_plan::ExecutionPlan;
use mild_ledger_records::Piece;
use std::sync::Arc;

/// Pieces in partitions, those of each after each other in the records.
#[derive(Debug)]
pub(super) struct PiecesTable {
    pub(super) partitions: Vec<Vec<Piece>>,
}

#[async_trait]
impl TableProvider for PiecesTable {
    fn schema(&self) -> SchemaRef {
        Arc::new(Schema::new(vec![Field::new("piece", DataType::LargeBinary, false)]))
    }

    fn table_type(&self) -> TableType {
        TableType::Base
    }

    async fn scan(
        &self,
        _: &dyn Session,
        projection: Option<&Vec<usize>>,
        _: &[Expr],
        _: Option<usize>,
    ) -> Result<Arc<dyn ExecutionPlan>> {
        let batch = |pieces: &Vec<Piece>| -> Result<Vec<RecordBatch>> {
            let bytes = pieces.iter().map(|piece| piece.to_bytes().map_err(within));
            let bytes = LargeBinaryArray::from_iter_values(bytes.collect::<Result<Vec<_>>>()?);
            Ok(vec![RecordBatch::try_new(self.schema(), vec![Arc::new(bytes)])?])
        };
        let partitions = self.partitions.iter().map(batch).collect::<Result<Vec<_>>>()?;
        Ok(MemorySourceConfig::try_new_exec(&partitions, self.schema(), projection.cloned())?)
    }
}

/// The pieces of a batch of the table.
pub(super) fn pieces_in(batch: &RecordBatch) -> Result<Vec<Piece>> {
    let column = batch.columns().first().and_then(|column| column.as_any().downcast_ref());
    let lacks = || DataFusionError::Internal("there are no pieces where some were expected".to_owned());
    let bytes: &LargeBinaryArray = column.ok_or_else(lacks)?;
    (0..bytes.len()).map(|row| Piece::of_bytes(bytes.value(row)).map_err(within)).collect()
}
