//! A cluster on this machine, each process of which ends with it.

use std::net::{TcpListener, TcpStream};
use std::path::Path;
use std::process::{Child, Command, Output, Stdio};
use std::time::{Duration, Instant};

pub const COMMAND: &str = env!("CARGO_BIN_EXE_mild-engine");

/// A scheduler, and those who work for it; they end with it.
pub struct Cluster {
    pub address: String,
    scheduler: Child,
    pub executors: Vec<Child>,
    _folders: Vec<tempfile::TempDir>,
}

pub fn free_port() -> u16 {
    TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port()
}

pub fn begin(arguments: &[&str]) -> Child {
    let (out, error) = (Stdio::null(), Stdio::null());
    Command::new(COMMAND).args(arguments).stdout(out).stderr(error).spawn().unwrap()
}

impl Cluster {
    pub fn of(executors: usize) -> Self {
        let port = free_port();
        let address = format!("127.0.0.1:{port}");
        let scheduler = begin(&["scheduler", "--port", &port.to_string(), "--gone-after", "6"]);
        let began = Instant::now();
        while TcpStream::connect(&address).is_err() {
            assert!(began.elapsed() < Duration::from_secs(30), "the scheduler does not come up");
            std::thread::sleep(Duration::from_millis(50));
        }
        let mut folders = Vec::new();
        let executors = (0..executors).map(|_| {
            let folder = tempfile::tempdir().unwrap();
            let [port, work_port] = [free_port(), free_port()].map(|port| port.to_string());
            let place = folder.path().display().to_string();
            folders.push(folder);
            begin(&[
                "executor",
                "--scheduler",
                &address,
                "--port",
                &port,
                "--work-port",
                &work_port,
                "--tasks",
                "1",
                "--folder",
                &place,
            ])
        });
        Self { address: address.clone(), scheduler, executors: executors.collect(), _folders: folders }
    }

    /// Begins a run in at most this many partitions, with pieces of about this many bytes.
    pub fn begin_run(&self, folder: &Path, plan: &str, (partitions, bytes): (usize, usize)) -> Child {
        Command::new(COMMAND)
            .arg("run")
            .arg(folder.join(plan))
            .args(["--json", "--overwrite", "--sample", "3"])
            .args(["--partitions", &partitions.to_string(), "--pieces-of", &bytes.to_string()])
            .args(["--cluster", &self.address, "--give-up-after", "40"])
            .current_dir(folder)
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()
            .unwrap()
    }

    pub fn run(&self, folder: &Path, plan: &str, cut: (usize, usize)) -> Output {
        self.begin_run(folder, plan, cut).wait_with_output().unwrap()
    }
}

impl Drop for Cluster {
    fn drop(&mut self) {
        for process in self.executors.iter_mut().chain([&mut self.scheduler]) {
            let _ = process.kill();
            let _ = process.wait();
        }
    }
}
