"""A stand-in for a storage service far away: buckets of files over HTTP, as much of it as is asked of one."""

import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from urllib.parse import parse_qs, unquote, urlsplit
from xml.sax.saxutils import escape


class FarStore(ThreadingHTTPServer):
    def __init__(self):
        super().__init__(("127.0.0.1", 0), Handler)
        self.files = {}
        threading.Thread(target=self.serve_forever, daemon=True).start()

    @property
    def address(self):
        return f"http://127.0.0.1:{self.server_port}"


class Handler(BaseHTTPRequestHandler):
    protocol_version = "HTTP/1.1"

    def log_message(self, *arguments):
        pass

    def _key(self):
        return unquote(urlsplit(self.path).path).lstrip("/").partition("/")[2]

    def _answer(self, status, body=b"", length=None, **headers):
        self.send_response(status)
        self.send_header("Content-Length", str(len(body) if length is None else length))
        for name, value in headers.items():
            self.send_header(name.replace("_", "-"), value)
        self.end_headers()
        if self.command != "HEAD":
            self.wfile.write(body)

    def do_PUT(self):
        if self.headers.get("Transfer-Encoding") == "chunked" or "aws-chunked" in self.headers.get(
            "Content-Encoding", ""
        ):
            body = self._chunks(self.rfile.read(int(self.headers["Content-Length"])))
        else:
            body = self.rfile.read(int(self.headers["Content-Length"]))
        self.server.files[self._key()] = body
        self._answer(200, ETag='"x"')

    def _chunks(self, sent):
        body = b""
        while sent:
            size, _, sent = sent.partition(b"\r\n")
            count = int(size.partition(b";")[0], 16)
            if not count:
                break
            body, sent = body + sent[:count], sent[count + 2 :]
        return body

    def do_GET(self):
        key, asked = self._key(), parse_qs(urlsplit(self.path).query)
        if not key:
            return self._answer(200, self._listed(asked.get("prefix", [""])[0]), Content_Type="application/xml")
        if key not in self.server.files:
            return self._answer(404)
        body = self.server.files[key]
        return self._answer(200, body, ETag='"x"', Last_Modified="Mon, 30 Nov 2026 10:00:00 GMT")

    def do_HEAD(self):
        found = self.server.files.get(self._key())
        if found is None:
            return self._answer(404)
        return self._answer(200, length=len(found), ETag='"x"', Last_Modified="Mon, 30 Nov 2026 10:00:00 GMT")

    def do_DELETE(self):
        self.server.files.pop(self._key(), None)
        self._answer(204)

    def _listed(self, prefix):
        below = [key for key in self.server.files if key.startswith(prefix)]
        here = sorted(key for key in below if "/" not in key[len(prefix) :])
        folders = sorted({key[: key.index("/", len(prefix)) + 1] for key in below if "/" in key[len(prefix) :]})
        parts = [
            f"<Contents><Key>{escape(key)}</Key><Size>{len(self.server.files[key])}</Size></Contents>" for key in here
        ]
        parts += [f"<CommonPrefixes><Prefix>{escape(folder)}</Prefix></CommonPrefixes>" for folder in folders]
        whole = (
            "<ListBucketResult"
            f' xmlns="http://s3.amazonaws.com/doc/2006-03-01/"><IsTruncated>false</IsTruncated>{"".join(parts)}</ListBucketResult>'
        )
        return whole.encode()
