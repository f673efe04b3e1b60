"""Real git servers on the loopback: git's own daemon, and git's http-backend behind a small HTTP server."""

import os
import socket
import subprocess
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path


@contextmanager
def git_daemon(folder: Path) -> Iterator[str]:
    """Serves the repositories of a folder by git's own protocol; gives the address of the folder."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    command = ["git", "daemon", f"--base-path={folder}", "--export-all", "--enable=receive-pack", "--reuseaddr"]
    command += ["--listen=127.0.0.1", f"--port={port}", str(folder)]
    with subprocess.Popen(command, stderr=subprocess.DEVNULL) as process:
        for _ in range(200):
            with socket.socket() as tried:
                if tried.connect_ex(("127.0.0.1", port)) == 0:
                    break
            time.sleep(0.02)
        try:
            yield f"git://127.0.0.1:{port}"
        finally:
            process.terminate()


@contextmanager
def git_over_http(folder: Path) -> Iterator[str]:
    """Serves the repositories of a folder by HTTP; gives the address of the folder."""

    class Handler(BaseHTTPRequestHandler):
        protocol_version = "HTTP/1.0"

        def do_GET(self) -> None:
            self._answer(b"")

        def do_POST(self) -> None:
            self._answer(self.rfile.read(int(self.headers.get("Content-Length", 0))))

        def _answer(self, body: bytes) -> None:
            path, _, query = self.path.partition("?")
            environment = {
                **os.environ,
                "GIT_PROJECT_ROOT": str(folder),
                "GIT_HTTP_EXPORT_ALL": "1",
                "PATH_INFO": path,
                "QUERY_STRING": query,
                "REQUEST_METHOD": self.command,
                "CONTENT_TYPE": self.headers.get("Content-Type", ""),
                "CONTENT_LENGTH": str(len(body)),
                "HTTP_CONTENT_ENCODING": self.headers.get("Content-Encoding", ""),
                "GIT_PROTOCOL": self.headers.get("Git-Protocol", ""),
                "REMOTE_ADDR": "127.0.0.1",
            }
            said = subprocess.run(
                ["git", "http-backend"], input=body, env=environment, capture_output=True, check=True
            ).stdout
            head, _, content = said.partition(b"\r\n\r\n")
            fields = dict(line.split(": ", 1) for line in head.decode().splitlines())
            self.send_response(int(fields.pop("Status", "200").split()[0]))
            for name, value in fields.items():
                self.send_header(name, value)
            self.end_headers()
            self.wfile.write(content)

        def log_message(self, *_arguments: object) -> None:
            """Tests are silent."""

    with ThreadingHTTPServer(("127.0.0.1", 0), Handler) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        try:
            yield f"http://127.0.0.1:{server.server_port}"
        finally:
            server.shutdown()
