// Ticks from a thread of its own, which a hidden tab does not slow down.
"use strict";
setInterval(() => postMessage(0), 25);
