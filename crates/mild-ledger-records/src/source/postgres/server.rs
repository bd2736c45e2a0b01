//! A real server on this machine, started for the tests.

use super::environment;
use postgres::{Client, NoTls};
use rcgen::{BasicConstraints, CertificateParams, CertifiedIssuer, IsCa, KeyPair};
use std::ffi::OsString;
use std::fs;
use std::net::TcpListener;
use std::os::unix::fs::MetadataExt;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

/// A server that ends with the test.
pub(crate) struct Server {
    pub(super) folder: tempfile::TempDir,
    pub(super) process: Child,
    pub(super) port: u16,
}

/// Where the operating system has the server's programs; nothing where it has none.
fn programs() -> Option<PathBuf> {
    let by_version =
        fs::read_dir("/usr/lib/postgresql").ok()?.filter_map(|entry| Some(entry.ok()?.path().join("bin")));
    by_version.filter(|folder| folder.join("postgres").exists() && folder.join("initdb").exists()).max()
}

/// A program of the server. It refuses to be run by root, so that root runs it as the user whom its package made.
fn program(folder: &Path, name: &str) -> Command {
    let is_root = Command::new("id").arg("-u").output().is_ok_and(|said| said.stdout == b"0\n");
    let path = folder.join(name);
    if !is_root {
        return Command::new(path);
    }
    let mut command = Command::new("setpriv");
    command.args(["--reuid=postgres", "--regid=postgres", "--clear-groups"]).arg(path);
    command
}

/// Gives a server a certificate for `yard.example`, and a database `clear` to which it wants the password in clear text.
fn prepare_encryption(data: &Path) {
    let mut root = CertificateParams::new(Vec::new()).unwrap();
    root.is_ca = IsCa::Ca(BasicConstraints::Unconstrained);
    let root = CertifiedIssuer::self_signed(root, KeyPair::generate().unwrap()).unwrap();
    let key = KeyPair::generate().unwrap();
    let params = CertificateParams::new(vec!["yard.example".to_owned()]).unwrap();
    let certificate = params.signed_by(&key, &root).unwrap();
    let owner = fs::metadata(data.join("postgresql.conf")).unwrap();
    for (name, text) in
        [("server.crt", certificate.pem()), ("server.key", key.serialize_pem()), ("root.pem", root.pem())]
    {
        let file = data.join(name);
        fs::write(&file, text).unwrap();
        fs::set_permissions(&file, std::os::unix::fs::PermissionsExt::from_mode(0o600)).unwrap();
        let (user, group) = (owner.uid(), owner.gid());
        std::os::unix::fs::chown(&file, Some(user), Some(group)).unwrap();
    }
    let settings = data.join("postgresql.conf");
    fs::write(&settings, fs::read_to_string(&settings).unwrap() + "\nssl = on\n").unwrap();
    let access = data.join("pg_hba.conf");
    let rule = "host clear all 127.0.0.1/32 password\n".to_owned();
    fs::write(&access, rule + &fs::read_to_string(&access).unwrap()).unwrap();
}

impl Server {
    /// A server. Where the system has no PostgreSQL, it prints that and gives none; where the tests require one, it fails.
    pub(crate) fn start() -> Option<Self> {
        let Some(programs) = programs() else {
            assert!(
                std::env::var_os("MILD_NEEDS_SERVERS").is_none(),
                "this machine has no PostgreSQL server"
            );
            eprintln!("skipped: this machine has no PostgreSQL server");
            return None;
        };
        let folder = tempfile::tempdir().unwrap();
        // The server's user has to get into it.
        let open = std::os::unix::fs::PermissionsExt::from_mode(0o777);
        fs::set_permissions(folder.path(), open).unwrap();
        let data = folder.path().join("data");
        fs::write(folder.path().join("password"), "harbour:bell").unwrap();
        let made = program(&programs, "initdb")
            .args(["--auth=scram-sha-256", "--username=clerk", "--encoding=UTF8", "--no-sync", "--locale=C"])
            .arg(format!("--pwfile={}", folder.path().join("password").display()))
            .arg("-D")
            .arg(&data)
            .stdout(Stdio::null())
            .output()
            .unwrap();
        assert!(made.status.success(), "{}", String::from_utf8_lossy(&made.stderr));
        prepare_encryption(&data);
        let port = TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
        let process = program(&programs, "postgres")
            .arg("-D")
            .arg(&data)
            .args(["-h", "127.0.0.1", "-p", &port.to_string(), "-k"])
            .arg(folder.path())
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        let server = Self { folder, process, port };
        let began = Instant::now();
        while server.connected().is_none() {
            assert!(began.elapsed() < Duration::from_secs(60), "the server does not answer");
            std::thread::sleep(Duration::from_millis(100));
        }
        Some(server)
    }

    pub(crate) fn connected(&self) -> Option<Client> {
        let address =
            format!("host=127.0.0.1 port={} user=clerk dbname=postgres password=harbour:bell", self.port);
        Client::connect(&address, NoTls).ok()
    }

    /// Keeps its password in a file, as a person does, while something is done.
    pub(crate) fn with_password_file<T>(&self, then: impl FnOnce() -> T) -> T {
        self.with_password_file_and(&[], then)
    }

    /// The same, with more variables in the environment.
    pub(super) fn with_password_file_and<T>(&self, more: &[(&str, OsString)], then: impl FnOnce() -> T) -> T {
        let kept = self.folder.path().join("passwords");
        fs::write(&kept, format!("# the yard\n*:{}:*:clerk:harbour\\:bell\n", self.port)).unwrap();
        fs::set_permissions(&kept, std::os::unix::fs::PermissionsExt::from_mode(0o600)).unwrap();
        let variables = [&[(environment::PASSWORD_FILE, kept.into())], more].concat();
        environment::with_variables(&variables, then)
    }

    /// The file of the certificate that its own certificate, for `yard.example`, comes from.
    pub(super) fn root_certificate(&self) -> PathBuf {
        self.folder.path().join("data/root.pem")
    }

    pub(crate) fn address(&self) -> String {
        format!("postgresql://clerk@127.0.0.1:{}/postgres", self.port)
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        // An interrupt ends it at once, its connections cut.
        let _ = Command::new("kill").args(["-INT", &self.process.id().to_string()]).status();
        let _ = self.process.wait();
    }
}
