//! A cluster on this machine, each process of which ends with it.

use std::net::{TcpListener, TcpStream};
use std::path::Path;
use std::process::{Child, Command, Output, Stdio};
use std::time::{Duration, Instant};

pub const COMMAND: &str = env!("CARGO_BIN_EXE_mild-engine");

/// A scheduler, and its executors; they end with it.
pub struct Cluster {
    pub address: String,
    scheduler: Child,
    pub executors: Vec<Child>,
    folders: Vec<tempfile::TempDir>,
}

/// The file in which an executor's messages are kept, in its folder.
const SAID: &str = "said.txt";

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
        let mut cluster = Self { address, scheduler, executors: Vec::new(), folders: Vec::new() };
        (0..executors).for_each(|_| cluster.add_executor(Command::new(COMMAND)));
        cluster
    }

    /// Starts an executor by a command that its arguments are added to.
    pub fn add_executor(&mut self, mut command: Command) {
        let folder = tempfile::tempdir().unwrap();
        let [port, work_port] = [free_port(), free_port()].map(|port| port.to_string());
        command
            .args(["executor", "--scheduler", &self.address, "--port", &port, "--work-port", &work_port])
            .args(["--tasks", "1", "--folder"])
            .arg(folder.path())
            .stdout(Stdio::null())
            .stderr(std::fs::File::create(folder.path().join(SAID)).unwrap());
        self.folders.push(folder);
        self.executors.push(command.spawn().unwrap());
    }

    /// What an executor wrote to standard error so far.
    pub fn said_by(&self, executor: usize) -> String {
        std::fs::read_to_string(self.folders[executor].path().join(SAID)).unwrap()
    }

    /// The folders of an executor's results.
    pub fn results_of(&self, executor: usize) -> Vec<std::path::PathBuf> {
        let entries = std::fs::read_dir(self.folders[executor].path()).unwrap();
        entries.map(|entry| entry.unwrap().path()).filter(|path| path.is_dir()).collect()
    }

    /// Starts an executor that sees one folder in place of another, in a mount namespace of its own (Linux, `unshare`). False where the system
    /// gives none.
    pub fn add_executor_that_sees(&mut self, other: &Path, in_place_of: &Path) -> bool {
        let gives = Command::new("unshare").args(["--map-root-user", "--mount", "true"]).status();
        if !gives.is_ok_and(|status| status.success()) {
            return false;
        }
        let mut command = Command::new("unshare");
        command
            .args([
                "--map-root-user",
                "--mount",
                "sh",
                "-c",
                "mount --bind \"$1\" \"$2\" && shift 2 && exec \"$@\"",
                "sh",
            ])
            .args([other, in_place_of])
            .arg(COMMAND);
        self.add_executor(command);
        true
    }

    /// Begins a run in at most this many partitions, with pieces of about this many bytes.
    pub fn begin_run(&self, folder: &Path, plan: &str, cut: (usize, usize)) -> Child {
        self.run_command(folder, plan, cut).spawn().unwrap()
    }

    pub fn run_command(&self, folder: &Path, plan: &str, (partitions, bytes): (usize, usize)) -> Command {
        let mut command = Command::new(COMMAND);
        command
            .arg("run")
            .arg(folder.join(plan))
            .args(["--json", "--overwrite", "--sample", "3"])
            .args(["--partitions", &partitions.to_string(), "--pieces-of", &bytes.to_string()])
            .args(["--cluster", &self.address, "--give-up-after", "40"])
            .current_dir(folder)
            .stdout(Stdio::piped())
            .stderr(Stdio::piped());
        command
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
