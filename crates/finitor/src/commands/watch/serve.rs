//! The page over HTTP, to browsers of this machine alone.
//!
//! It listens on a loopback address, answers only to that name (so that no other site reaches it through a name of its own), knows
//! two paths, reads no body and writes nothing. A server of its own thread; `hyper` reads and writes HTTP.

use finitor_app::Failure;
use finitor_draw::MadePage;
use hyper::body::{Body, Bytes, Frame, Incoming};
use hyper::header::{ALLOW, CACHE_CONTROL, CONTENT_TYPE, HOST, HeaderValue};
use hyper::service::service_fn;
use hyper::{Method, Request, Response, StatusCode};
use hyper_util::rt::{TokioIo, TokioTimer};
use std::convert::Infallible;
use std::future::Future;
use std::net::SocketAddr;
use std::pin::Pin;
use std::sync::Arc;
use std::task::{Context, Poll};
use std::time::Duration;
use tokio::net::TcpListener;
use tokio::runtime::Runtime;
use tokio::sync::{Semaphore, watch};

/// Browsers hold some connections each; more are refused.
const MOST_CONNECTIONS: usize = 16;
/// A request's head comes within this.
const HEAD_TIME: Duration = Duration::from_secs(5);
/// So often a line is sent that says nothing, to notice browsers that are gone.
const STILL_THERE: Duration = Duration::from_secs(15);

/// What is shown now.
#[derive(Clone, Debug, Default)]
struct Shown {
    page: Bytes,
    version: String,
    /// What is wrong since then, where anything is.
    trouble: Option<String>,
}

/// A server that runs until it is dropped.
pub(super) struct Server {
    address: SocketAddr,
    shown: watch::Sender<Shown>,
    runtime: Option<Runtime>,
}

impl Server {
    /// Listens on an address.
    ///
    /// # Errors
    /// An address that is taken.
    pub(super) fn start(address: SocketAddr) -> Result<Server, Failure> {
        let cannot = |error: std::io::Error| {
            Failure::Usage(format!("cannot serve at {address}: {error}; name another port, such as --serve 0 for any"))
        };
        let runtime = tokio::runtime::Builder::new_multi_thread().worker_threads(1).enable_io().enable_time().build();
        let runtime = runtime.map_err(cannot)?;
        let listener = runtime.block_on(TcpListener::bind(address)).map_err(cannot)?;
        let address = listener.local_addr().map_err(cannot)?;
        let (shown, seen) = watch::channel(Shown::default());
        runtime.spawn(accept(listener, Arc::new(names(address)), seen));
        Ok(Server { address, shown, runtime: Some(runtime) })
    }

    /// Where it listens.
    pub(super) fn address(&self) -> SocketAddr {
        self.address
    }

    /// Shows a page; browsers that have an older one take it.
    pub(super) fn show(&self, page: MadePage) {
        self.shown.send_modify(|shown| {
            shown.page = Bytes::from(page.html);
            shown.version = page.version;
            shown.trouble = None;
        });
    }

    /// Says on the page that something is wrong.
    pub(super) fn trouble(&self, words: &str) {
        self.shown.send_modify(|shown| shown.trouble = Some(words.to_string()));
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        if let Some(runtime) = self.runtime.take() {
            runtime.shutdown_background();
        }
    }
}

/// What browsers may call it: its address, and the name of loopback addresses.
fn names(address: SocketAddr) -> Vec<String> {
    vec![address.to_string(), format!("localhost:{}", address.port())]
}

async fn accept(listener: TcpListener, names: Arc<Vec<String>>, seen: watch::Receiver<Shown>) {
    let places = Arc::new(Semaphore::new(MOST_CONNECTIONS));
    loop {
        let Ok((stream, _)) = listener.accept().await else {
            tokio::time::sleep(Duration::from_millis(50)).await;
            continue;
        };
        // One too many is closed at once.
        let Ok(place) = Arc::clone(&places).try_acquire_owned() else { continue };
        let (names, seen) = (Arc::clone(&names), seen.clone());
        tokio::spawn(async move {
            let _place = place;
            let answer = service_fn(|request| {
                let answer = answer(&request, &names, &seen);
                async move { Ok::<_, Infallible>(answer) }
            });
            let mut http = hyper::server::conn::http1::Builder::new();
            http.timer(TokioTimer::new()).header_read_timeout(HEAD_TIME).max_buf_size(16 * 1024);
            // A browser that goes away is no fault.
            drop(http.serve_connection(TokioIo::new(stream), answer).await);
        });
    }
}

fn answer(request: &Request<Incoming>, names: &[String], seen: &watch::Receiver<Shown>) -> Response<Answer> {
    let host = request.headers().get(HOST).and_then(|host| host.to_str().ok()).unwrap_or_default();
    if !names.iter().any(|name| name == host) {
        return plain(StatusCode::FORBIDDEN, "this server answers to its own address only");
    }
    if request.method() != Method::GET && request.method() != Method::HEAD {
        let mut answer = plain(StatusCode::METHOD_NOT_ALLOWED, "this server is read only");
        answer.headers_mut().insert(ALLOW, HeaderValue::from_static("GET, HEAD"));
        return answer;
    }
    match request.uri().path() {
        "/" => {
            let page = seen.borrow().page.clone();
            if page.is_empty() {
                return plain(StatusCode::SERVICE_UNAVAILABLE, "there is no page yet: mend the files that are wrong");
            }
            typed("text/html; charset=utf-8", Answer::Whole(Some(page)))
        }
        "/events" => typed("text/event-stream", Answer::Events(Box::new(Events::new(seen.clone())))),
        _ => plain(StatusCode::NOT_FOUND, "there is only the page, at /"),
    }
}

fn plain(status: StatusCode, words: &'static str) -> Response<Answer> {
    let mut answer = typed("text/plain; charset=utf-8", Answer::Whole(Some(Bytes::from_static(words.as_bytes()))));
    *answer.status_mut() = status;
    answer
}

fn typed(kind: &'static str, body: Answer) -> Response<Answer> {
    let mut answer = Response::new(body);
    let headers = answer.headers_mut();
    headers.insert(CONTENT_TYPE, HeaderValue::from_static(kind));
    headers.insert(CACHE_CONTROL, HeaderValue::from_static("no-store"));
    for (name, value) in [
        ("x-content-type-options", "nosniff"),
        ("referrer-policy", "no-referrer"),
        ("cross-origin-resource-policy", "same-origin"),
        ("x-frame-options", "DENY"),
    ] {
        headers.insert(name, HeaderValue::from_static(value));
    }
    answer
}

/// A body: all at once, or events as they come.
enum Answer {
    Whole(Option<Bytes>),
    Events(Box<Events>),
}

impl Body for Answer {
    type Data = Bytes;
    type Error = Infallible;

    fn poll_frame(self: Pin<&mut Self>, context: &mut Context<'_>) -> Poll<Option<Result<Frame<Bytes>, Infallible>>> {
        match self.get_mut() {
            Answer::Whole(bytes) => Poll::Ready(bytes.take().map(|bytes| Ok(Frame::data(bytes)))),
            Answer::Events(events) => events.next.as_mut().poll(context).map(|(text, seen)| {
                events.next = Events::after(seen);
                Some(Ok(Frame::data(Bytes::from(text))))
            }),
        }
    }
}

type Seen = watch::Receiver<Shown>;
type NextEvent = Pin<Box<dyn Future<Output = (String, Seen)> + Send + Sync>>;

/// Server-sent events (WHATWG HTML, 9.2).
struct Events {
    next: NextEvent,
}

impl Events {
    /// What is shown now comes at once: a page that was loaded before that is renewed.
    fn new(mut seen: Seen) -> Events {
        let text = event(&seen.borrow_and_update());
        Events { next: Box::pin(async move { (text, seen) }) }
    }

    fn after(mut seen: Seen) -> NextEvent {
        Box::pin(async move {
            let text = match tokio::time::timeout(STILL_THERE, seen.changed()).await {
                Ok(Ok(())) => event(&seen.borrow_and_update()),
                // The server ends.
                Ok(Err(_)) => std::future::pending().await,
                Err(_) => ": still there\n\n".to_string(),
            };
            (text, seen)
        })
    }
}

/// What there is now, as an event.
fn event(shown: &Shown) -> String {
    match &shown.trouble {
        Some(words) => format!("event: trouble\ndata: {words}\n\n"),
        None => format!("event: page\ndata: {}\n\n", shown.version),
    }
}
