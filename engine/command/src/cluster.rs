//! `mild-engine scheduler` and `mild-engine executor`, and the session of who runs plans on them.

use crate::arguments::{ExecutorArguments, SchedulerArguments};
use crate::ending::{Ending, Failure};
use ballista::prelude::SessionContextExt;
use ballista_core::extension::SessionConfigExt;
use ballista_core::registry::BallistaFunctionRegistry;
use ballista_core::serde::{BallistaLogicalExtensionCodec, BallistaPhysicalExtensionCodec};
use ballista_executor::executor_process::{ExecutorProcessConfig, start_executor_process};
use ballista_scheduler::cluster::BallistaCluster;
use ballista_scheduler::config::SchedulerConfig;
use ballista_scheduler::scheduler_process::start_server;
use datafusion::execution::{SessionState, SessionStateBuilder};
use datafusion::prelude::{SessionConfig, SessionContext};
use datafusion_proto::logical_plan::LogicalExtensionCodec;
use datafusion_proto::physical_plan::PhysicalExtensionCodec;
use mild_ledger_engine::{PlanLogicalCodec, PlanPhysicalCodec, name_process, plan_state, register};
use std::net::{SocketAddr, ToSocketAddrs};
use std::num::NonZeroUsize;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Duration;

/// How long a scheduler that is not there is waited for.
const PATIENCE: Duration = Duration::from_secs(5);

/// How long results are kept that no one fetched, such as those of a run that was killed.
const LONGEST_KEPT: Duration = Duration::from_secs(24 * 60 * 60);

/// The most bytes of a message between processes: what parts tell of their counts comes in one.
const LARGEST_MESSAGE: u32 = 256 << 20;

/// The session of who runs plans on a cluster.
pub(crate) async fn session(scheduler: &str, partitions: NonZeroUsize) -> Result<SessionContext, Failure> {
    let absent = |why: &dyn std::fmt::Display| Failure::Request {
        what: format!("no scheduler answers at {scheduler}: {why}"),
        help: "mild-engine scheduler starts one; --cluster HOST:PORT says where it is".to_owned(),
    };
    let connected = tokio::time::timeout(PATIENCE, tokio::net::TcpStream::connect(scheduler));
    match connected.await {
        Ok(Ok(_)) => {}
        Ok(Err(error)) => return Err(absent(&error)),
        Err(_) => return Err(absent(&format!("nothing came within {} seconds", PATIENCE.as_secs()))),
    }
    let config = config().with_target_partitions(partitions.get());
    let state = SessionStateBuilder::new_with_default_features().with_config(config).build();
    let session = SessionContext::remote_with_state(&format!("df://{scheduler}"), state).await;
    session.map_err(|error| absent(&error))
}

/// What all processes of a cluster have in common.
fn config() -> SessionConfig {
    SessionConfig::new_with_ballista()
        .with_ballista_logical_extension_codec(logical_codec())
        .with_ballista_physical_extension_codec(physical_codec())
        .with_ballista_grpc_client_max_message_size(usize::try_from(LARGEST_MESSAGE).unwrap_or(usize::MAX))
}

fn logical_codec() -> Arc<dyn LogicalExtensionCodec> {
    Arc::new(PlanLogicalCodec::beside(Arc::new(BallistaLogicalExtensionCodec::default())))
}

fn physical_codec() -> Arc<dyn PhysicalExtensionCodec> {
    Arc::new(PlanPhysicalCodec::beside(Arc::new(BallistaPhysicalExtensionCodec::default())))
}

/// The state in which a scheduler plans: with our nodes and functions.
fn planning(config: SessionConfig) -> datafusion::error::Result<SessionState> {
    let context = SessionContext::new_with_state(plan_state(config).build());
    register(&context)?;
    Ok(context.state())
}

pub(crate) fn scheduler(arguments: &SchedulerArguments) -> Result<Ending, Failure> {
    let address = address(&arguments.listen, arguments.port)?;
    let config = SchedulerConfig {
        bind_host: arguments.listen.clone(),
        bind_port: arguments.port,
        external_host: arguments.reached_at.clone().unwrap_or_else(|| arguments.listen.clone()),
        executor_timeout_seconds: arguments.gone_after,
        expire_dead_executor_interval_seconds: (arguments.gone_after / 3).max(1),
        no_executors_grace_period_seconds: arguments.gone_after,
        grpc_server_max_decoding_message_size: LARGEST_MESSAGE,
        grpc_server_max_encoding_message_size: LARGEST_MESSAGE,
        grpc_client_max_message_size: LARGEST_MESSAGE,
        override_config_producer: Some(Arc::new(config)),
        override_session_builder: Some(Arc::new(planning)),
        override_logical_codec: Some(logical_codec()),
        override_physical_codec: Some(physical_codec()),
        ..SchedulerConfig::default()
    };
    let config = Arc::new(config);
    until_stopped(async move {
        let cluster = BallistaCluster::new_from_config(&config).await?;
        eprintln!("mild-engine scheduler: listening at {address}");
        start_server(cluster, address, config).await
    })
}

pub(crate) fn executor(arguments: &ExecutorArguments) -> Result<Ending, Failure> {
    let wrong = |what: String| Failure::Request {
        what,
        help: "--scheduler HOST:PORT, such as 127.0.0.1:50050".to_owned(),
    };
    let (host, port) = arguments
        .scheduler
        .rsplit_once(':')
        .and_then(|(host, port)| Some((host.to_owned(), port.parse().ok()?)))
        .ok_or_else(|| wrong(format!("\"{}\" is not a host and port", arguments.scheduler.escape_debug())))?;
    let functions = planning(config()).map_err(|error| wrong(error.to_string()))?;
    // Results are rows of the records: no one but this user may read them, and they go with this process.
    let mut results = tempfile::Builder::new();
    let results = results.prefix("mild-executor-");
    #[cfg(unix)]
    let results = results.permissions(std::os::unix::fs::PermissionsExt::from_mode(0o700));
    let results = match &arguments.folder {
        Some(folder) => results.tempdir_in(folder),
        None => results.tempdir(),
    };
    let results = results.map_err(|error| Failure::Request {
        what: format!("no folder can be made for results: {error}"),
        help: "--folder names a folder that may be written to".to_owned(),
    })?;
    let reached_at = arguments.reached_at.as_ref().unwrap_or(&arguments.listen);
    let of_results = results.path().display();
    name_process(format!(
        "the executor {reached_at}:{}, which keeps results in {of_results}",
        arguments.port
    ));
    let cores = || std::thread::available_parallelism().unwrap_or(NonZeroUsize::MIN);
    let config = ExecutorProcessConfig {
        bind_host: arguments.listen.clone(),
        external_host: Some(arguments.reached_at.clone().unwrap_or_else(|| arguments.listen.clone())),
        port: arguments.port,
        grpc_port: arguments.work_port,
        scheduler_host: host,
        scheduler_port: port,
        scheduler_connect_timeout_seconds: u16::try_from(PATIENCE.as_secs()).unwrap_or(u16::MAX),
        vcores: arguments.tasks.unwrap_or_else(cores).get(),
        work_dir: Some(results.path().display().to_string()),
        job_data_clean_up_interval_seconds: 600,
        job_data_ttl_seconds: LONGEST_KEPT.as_secs(),
        executor_heartbeat_interval_seconds: 2,
        grpc_max_decoding_message_size: LARGEST_MESSAGE,
        grpc_max_encoding_message_size: LARGEST_MESSAGE,
        override_function_registry: Some(Arc::new(BallistaFunctionRegistry::from(&functions))),
        override_config_producer: Some(Arc::new(self::config)),
        override_logical_codec: Some(logical_codec()),
        override_physical_codec: Some(physical_codec()),
        ..ExecutorProcessConfig::default()
    };
    eprintln!("mild-engine executor: working for {}", arguments.scheduler);
    let stopped = Arc::new(AtomicBool::new(false));
    for signal in [signal_hook::consts::SIGINT, signal_hook::consts::SIGTERM] {
        signal_hook::flag::register(signal, Arc::clone(&stopped))?;
    }
    let ended = until_stopped(start_executor_process(Arc::new(config)));
    drop(results);
    ended?;
    if stopped.load(Ordering::Relaxed) {
        return Ok(Ending::Done);
    }
    // The process of the cluster says nothing of it and ends as if all were well.
    Err(Failure::Request {
        what: format!(
            "the scheduler {} counted this executor as gone, or cannot be reached, so the executor ended; its work is given to others",
            arguments.scheduler
        ),
        help: "start it again; under systemd Restart=always does. A machine that stalls for long needs a larger --gone-after".to_owned(),
    })
}

fn address(host: &str, port: u16) -> Result<SocketAddr, Failure> {
    let found = (host, port).to_socket_addrs().ok().and_then(|mut all| all.next());
    found.ok_or_else(|| Failure::Request {
        what: format!("\"{}\" is not an address to listen at", host.escape_debug()),
        help: "--listen 127.0.0.1, or an address of this machine".to_owned(),
    })
}

/// Runs a process of the cluster until it ends or is asked to.
fn until_stopped<E: std::fmt::Display>(
    process: impl Future<Output = Result<(), E>>,
) -> Result<Ending, Failure> {
    let runtime =
        tokio::runtime::Builder::new_multi_thread().enable_all().thread_stack_size(32 << 20).build()?;
    runtime.block_on(process).map_err(|error| Failure::Request {
        what: format!("the process of the cluster ended: {error}"),
        help: "see that its ports are free and its scheduler is there; RUST_LOG=info says more".to_owned(),
    })?;
    Ok(Ending::Done)
}
