// A worker of its own: a browser slows the timers of a window that nobody looks at, not these.
setInterval(() => postMessage(null), 1000);
