// The little that the page does by itself: keys, lists that act when they are taken, the line for new things that
// loses nothing, what was done in one line, and keeping focus and place. Everything else is links and forms, which
// htmx fetches in place.
(function () {
  "use strict";

  function click(selector) {
    var element = document.querySelector(selector);
    if (!element || element.disabled) {
      return false;
    }
    element.click();
    return true;
  }

  function step(by) {
    var links = Array.prototype.slice.call(document.querySelectorAll("[data-order]"));
    if (!links.length) {
      return false;
    }
    var now = links.findIndex(function (link) { return link.getAttribute("aria-current") === "true"; });
    var next = now < 0 ? (by > 0 ? 0 : links.length - 1) : Math.min(links.length - 1, Math.max(0, now + by));
    if (next !== now) {
      links[next].click();
    }
    return true;
  }

  function focus(selector) {
    var element = document.querySelector(selector);
    if (!element) {
      return false;
    }
    var closed = element.closest("details:not([open])");
    if (closed) {
      closed.open = true;
    }
    element.focus();
    if (element.select) {
      element.select();
    }
    return true;
  }

  // Keys that are no letters work always; the others can be switched off.
  var plainKeys = {
    ArrowDown: function () { return step(1); },
    ArrowUp: function () { return step(-1); },
    Escape: function () { return click("[data-let-go]"); }
  };
  var keys = {
    p: function () { return click("#pin"); },
    m: function () { return focus("#move"); },
    "[": function () { return click("#earlier"); },
    "]": function () { return click("#later"); },
    v: function () { return click(".small-view"); },
    ",": function () { return click("#plane-back"); },
    ".": function () { return click("#plane-on"); },
    l: function () { return click("#start") || click("#step-on"); },
    " ": function () { return click("#play") || click("#start"); },
    c: function () { return click("#compare"); },
    t: function () { return click("#try-set") || click("#try"); },
    a: function () { return click("#take"); },
    s: function () { return click("#suggest"); },
    w: function () { return click("#stopwatch"); },
    n: function () { return focus("#field-new") || focus("#field-trip"); },
    e: function () { return click("#edit") || focus("#field-name"); },
    "/": function () { return focus("#field-q") || focus("#field-find"); },
    u: function () { return click("#undo"); },
    r: function () { return click("#redo"); }
  };

  // Playing loads the pack step by step: it follows the link to the next step until there is none.
  var player = null;

  function stopPlaying() {
    clearInterval(player);
    player = null;
    showPlaying();
  }

  function showPlaying() {
    var button = document.getElementById("play");
    if (button) {
      button.setAttribute("aria-pressed", String(player !== null));
      button.textContent = player === null ? "Play" : "Pause";
    }
  }

  // While a better plan is being looked for, the page listens; when it is there, the page fetches itself anew.
  var listening = null;
  var listeningTo = "";

  function deafen() {
    if (listening) {
      listening.close();
      listening = null;
      listeningTo = "";
    }
  }

  function listen() {
    var form = document.getElementById("searching");
    var address = form ? form.getAttribute("data-progress") : "";
    if (address === listeningTo) {
      return;
    }
    deafen();
    if (!form) {
      return;
    }
    listeningTo = address;
    listening = new EventSource(address);
    listening.addEventListener("progress", function (event) {
      var trials = document.getElementById("trials");
      if (trials) {
        trials.textContent = ", " + event.data + " tried";
      }
    });
    listening.addEventListener("better", function () {
      ended = true; // it may be through by the time the page comes
      fetchAnew();
    });
    listening.addEventListener("done", function () {
      deafen();
      if (document.getElementById("searching")) {
        ended = true;
        fetchAnew();
      }
    });
  }

  // The line that says that something better is looked for leaves its place to one that says that it was found, so that
  // nothing moves under the hand.
  var ended = false;

  function sayItEnded() {
    var detail = document.querySelector("#work > .detail");
    if (ended && detail && !document.getElementById("searching")) {
      var line = document.createElement("p");
      line.className = "searching";
      line.textContent = "The search has ended; this is the best it found.";
      detail.after(line);
    }
    ended = false;
  }

  // fetchAnew shows the newest state of the page, unless somebody has gone elsewhere or done something meanwhile: what
  // comes of that is newer.
  var underway = 0;
  var asked = 0; // times: only the answer to the last counts

  function fetchAnew() {
    var here = location.href;
    var mine = ++asked;
    fetch(here).then(function (response) { return response.ok ? response.text() : ""; }).then(function (text) {
      if (!text || location.href !== here || mine !== asked || underway > 0 || sending) {
        return;
      }
      if (inTheMiddle()) {
        setTimeout(fetchAnew, 700);
        return;
      }
      put(text);
    }).catch(function () { /* the page stays as it is */ });
  }

  // inTheMiddle reports whether somebody is just filling in a field; the lines for new things and for finding keep what
  // is in them anyway.
  var touched = 0;
  ["keydown", "input", "focusin", "pointerdown"].forEach(function (name) {
    document.addEventListener(name, function () { touched = performance.now(); }, true);
  });

  function inTheMiddle() {
    var field = document.activeElement;
    if (!field || !typing(field) || /^field-(new|q|find)$/.test(field.id)) {
      return pending !== null;
    }
    return pending !== null || performance.now() - touched < 700 || field.type !== "range" && field.tagName !== "SELECT" && field.value !== field.defaultValue;
  }

  // put swaps the page for another state of it.
  function put(text) {
    before = snapshot();
    keepTyping(true);
    window.htmx.swap("#page", text, { swapStyle: "morph:outerHTML", swapDelay: 0, settleDelay: 0 }, { select: "#page", contextElement: document.getElementById("page") });
  }

  document.addEventListener("htmx:beforeRequest", function (event) {
    undoing = event.target.id === "undo" || event.target.querySelector && event.target.matches("form") && Boolean(event.target.querySelector("#undo"));
    if (event.detail.target && event.detail.target.id === "page") {
      underway++;
    }
  });
  document.addEventListener("htmx:afterRequest", function (event) {
    if (event.detail.target && event.detail.target.id === "page") {
      underway = Math.max(0, underway - 1);
    }
  });

  function typing(target) {
    return target.isContentEditable || /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName) && target.type !== "checkbox";
  }

  document.addEventListener("alpine:init", function () {
    window.Alpine.data("shell", function () {
      return {
        help: function () { document.getElementById("keys-dialog").showModal(); },
        shut: function () { document.getElementById("keys-dialog").close(); },
        play: function () {
          if (player !== null) {
            stopPlaying();
            return;
          }
          player = setInterval(function () {
            if (!click("#step-on")) {
              stopPlaying();
            }
          }, 900);
          showPlaying();
        },
        press: function (event) {
          if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector("dialog[open]")) {
            return;
          }
          var slider = event.target.type === "range";
          if (slider ? /^(Arrow|Page|Home|End)/.test(event.key) : typing(event.target)) {
            if (event.key === "Escape") {
              event.target.blur();
            }
            return;
          }
          if (event.key === " " && /^(A|BUTTON|SUMMARY)$/.test(event.target.tagName)) {
            return;
          }
          var action = plainKeys[event.key];
          if (!action && document.body.dataset.keys !== "off") {
            if (event.key === "?") {
              action = this.help;
            } else if (/^[1-9]$/.test(event.key)) {
              action = function () { return click('[data-key="' + event.key + '"]'); };
            } else {
              var letter = event.key.length === 1 ? event.key.toLowerCase() : event.key;
              var own = document.querySelector('[data-press="' + CSS.escape(letter) + '"]');
              action = own ? function () { own.click(); return true; } : keys[letter];
            }
          }
          if (action && action() !== false) {
            event.preventDefault();
          }
        }
      };
    });
  });

  // Lists act when they are taken: by the pointer at once, by keys with Enter or on leaving the list, so that walking
  // through them with arrows changes nothing. Escape goes back to what it was. Other fields act when they are left.
  var byKey = false;
  var pending = null; // {select, was}

  function choose(element) {
    var form = element.form;
    if (form) {
      form.dispatchEvent(new CustomEvent("choose", { bubbles: true }));
    }
  }

  function takePending() {
    var select = pending && pending.select;
    pending = null;
    if (select && select.isConnected) {
      choose(select);
    }
  }

  document.addEventListener("pointerdown", function () { byKey = false; }, true);
  document.addEventListener("focusin", function (event) {
    if (event.target.tagName === "SELECT") {
      event.target.dataset.was = event.target.value;
    }
  });
  document.addEventListener("keydown", function (event) {
    if (event.target.tagName !== "SELECT") {
      return;
    }
    byKey = event.key !== "Enter";
    if (!pending || pending.select !== event.target) {
      return;
    }
    if (event.key === "Enter") {
      event.preventDefault();
      takePending();
    } else if (event.key === "Escape") {
      event.stopPropagation(); // the list keeps the focus
      event.target.value = pending.was;
      pending = null;
      tell("Left as it was.");
    }
  }, true);
  document.addEventListener("change", function (event) {
    var element = event.target;
    if (element.tagName === "SELECT" && byKey) {
      pending = { select: element, was: pending && pending.select === element ? pending.was : element.dataset.was };
      tell("Enter takes it, Esc leaves it.");
      return;
    }
    choose(element);
  });
  document.addEventListener("focusout", function (event) {
    if (pending && pending.select === event.target) {
      takePending();
    }
  });

  // Whoever types a name and begins at once practises by it.
  document.addEventListener("input", function (event) {
    if (event.target.id === "field-person") {
      document.querySelectorAll('.page-practice form[action="/practice"] input[type="hidden"][name="person"]').forEach(function (hidden) {
        hidden.value = event.target.value;
      });
    }
  });

  // The clock of an exercise runs on from what it showed when the page came.
  setInterval(function () {
    document.querySelectorAll("[data-running]").forEach(function (clock) {
      if (clock.shownFrom !== clock.dataset.running) {
        clock.shownFrom = clock.dataset.running;
        clock.begun = performance.now() - Number(clock.dataset.running);
      }
      var seconds = Math.floor((performance.now() - clock.begun) / 1000);
      clock.textContent = seconds < 100 ? seconds + " s" : Math.floor(seconds / 60) + " min " + String(seconds % 60).padStart(2, "0") + " s";
    });
  }, 200);

  // A thing in the drawing is chosen like its line in the list, one on the groundsheet like its line in the table.
  document.addEventListener("click", function (event) {
    var thing = event.target.closest(".page-load svg [data-step], .page-exercise .main-drawing [data-step], svg [data-line], svg [data-stop]");
    if (!thing) {
      return;
    }
    if (thing.closest(".page-exercise")) {
      click('[data-tick="' + CSS.escape(thing.getAttribute("data-step")) + '"]');
      return;
    }
    if (thing.hasAttribute("data-stop")) {
      document.querySelectorAll(".stops [data-order]")[Number(thing.getAttribute("data-stop"))].click();
      return;
    }
    if (thing.hasAttribute("data-line")) {
      click('[data-line-of="' + CSS.escape(thing.getAttribute("data-line")) + '"]');
      return;
    }
    var link = document.querySelectorAll(".side [data-order]")[Number(thing.getAttribute("data-step")) - 1];
    if (link) {
      link.click();
    }
  });

  // New things: the line is empty at once and what was typed waits its turn. Lines that wait while another answer is
  // under way go together, in their order; they outlive a reload. What is refused comes back: into the line when that
  // is empty, else into the box for many.
  var waiting = [];
  var sending = null; // the lines that are under way
  var later = null;

  function queueKey() { return "lines of " + location.pathname.replace(/^(\/trips\/\d+).*/, "$1"); }

  function keepWaiting() {
    try {
      if (waiting.length) {
        sessionStorage.setItem(queueKey(), JSON.stringify(waiting));
      } else {
        sessionStorage.removeItem(queueKey());
      }
    } catch (e) { /* without storage they wait in memory only */ }
  }

  function send() {
    if (sending || !waiting.length) {
      return;
    }
    clearTimeout(later);
    sending = waiting;
    waiting = [];
    var here = location.pathname + location.search;
    var status = 0;
    fetch(location.pathname.replace(/^(\/trips\/\d+).*/, "$1/items"), {
      method: "POST", keepalive: true, body: new URLSearchParams({ lines: sending.join("\n"), "return": here })
    }).then(function (response) {
      status = response.status;
      return response.text();
    }).then(function (text) {
      if (status >= 500) {
        throw new Error("not now");
      }
      sending = null;
      keepWaiting();
      if (document.getElementById("add")) {
        put(text);
        if (status >= 400) {
          giveBack();
        }
      } else {
        fetchAnew();
      }
      send();
    }).catch(function () {
      waiting = (sending || []).concat(waiting);
      sending = null;
      keepWaiting();
      tell("The program does not answer. " + (waiting.length === 1 ? "What you typed waits" : waiting.length + " lines wait") + " and will be sent again.");
      later = setTimeout(send, 2000);
    });
  }

  // giveBack puts refused lines where they can be mended.
  function giveBack() {
    var form = document.getElementById("add");
    var refused = form && form.getAttribute("data-refused");
    var line = document.getElementById("field-new");
    if (!refused) {
      return;
    }
    if (line.value === "" && refused.indexOf("\n") < 0 && !waiting.length && performance.now() - touched > 1500) {
      line.value = refused;
      return;
    }
    var box = document.getElementById("field-lines");
    var old = box.value.split("\n").filter(function (l) { return l && refused.split("\n").indexOf(l) < 0; });
    box.value = old.concat(refused.split("\n")).join("\n");
    box.closest("details").open = true;
    tell("Not understood, and kept in the box for many: " + refused.split("\n").join(", ") + ".");
  }

  // What stands in the box for many stays there until it is sent.
  var boxed = "";

  function restoreBox() {
    var box = document.getElementById("field-lines");
    if (box && boxed && !box.value) {
      box.value = boxed;
      box.closest("details").open = true;
    }
  }

  document.addEventListener("submit", function (event) {
    if (event.target.querySelector("#field-lines")) {
      document.getElementById("field-lines").dataset.sent = "1";
    }
    if (event.target.id !== "add") {
      return;
    }
    var line = document.getElementById("field-new");
    if (!line.value.trim()) {
      return;
    }
    event.preventDefault();
    event.stopImmediatePropagation();
    waiting.push(line.value);
    keepWaiting();
    line.value = "";
    document.getElementById("told").textContent = "";
    line.focus();
    send();
  }, true);

  function takeUp() {
    try {
      var kept = JSON.parse(sessionStorage.getItem(queueKey()) || "[]");
      if (document.getElementById("add") && kept.length && !waiting.length && !sending) {
        waiting = kept;
        send();
      }
    } catch (e) { /* nothing was kept */ }
  }

  // A tick at the head of a section ticks all of it.
  document.addEventListener("change", function (event) {
    if (!event.target.hasAttribute("data-tick-all")) {
      return;
    }
    event.target.closest("section").querySelectorAll("td input[type=checkbox]").forEach(function (box) { box.checked = event.target.checked; });
  });

  // The stopwatch: start, stop, and the seconds stand in the field, to be kept or mended.
  var startedAt = null;
  var ticking = null;
  document.addEventListener("click", function (event) {
    var button = event.target.closest("#stopwatch");
    if (!button) {
      return;
    }
    var show = function () {
      document.getElementById("field-seconds").value = ((performance.now() - startedAt) / 1000).toFixed(1);
    };
    if (startedAt === null) {
      stopPlaying(); // a step of the drill would put the page, and this button, anew
      startedAt = performance.now();
      ticking = setInterval(show, 100);
    } else {
      show();
      clearInterval(ticking);
      startedAt = ticking = null;
      document.querySelector("#watch button:not([type])").focus();
    }
    button.textContent = startedAt === null ? "Start" : "Stop";
    button.setAttribute("aria-pressed", String(startedAt !== null));
  });

  // Several lines pasted into the line for one thing go into the box for many.
  document.addEventListener("paste", function (event) {
    var text = event.clipboardData && event.clipboardData.getData("text");
    if (event.target.id !== "field-new" || !text || !/\n\s*\S/.test(text)) {
      return;
    }
    event.preventDefault();
    var box = document.getElementById("field-lines");
    box.closest("details").open = true;
    box.value = (box.value ? box.value + "\n" : "") + text;
    box.focus();
  });

  // The needle of the scale: it turns with each sample, and a reading can be kept when it has settled.
  var hanging = null;
  var hangingOn = "";

  function listenToScale() {
    var says = document.getElementById("needle-says");
    var address = says ? says.getAttribute("data-stream") : "";
    if (address === hangingOn) {
      return;
    }
    if (hanging) {
      hanging.close();
      hanging = null;
    }
    hangingOn = address;
    if (!address) {
      return;
    }
    hold(false);
    hanging = new EventSource(address);
    var last = "";
    hanging.addEventListener("needle", function (event) {
      var now = JSON.parse(event.data);
      var needle = document.getElementById("needle");
      var words = document.getElementById("needle-says");
      if (!needle || !words) {
        return;
      }
      var g = Math.max(0, Math.min(Number(needle.dataset.most) * 1.03, now.g));
      needle.setAttribute("transform", "rotate(" + (Number(needle.dataset.zero) + g * Number(needle.dataset.turn) / 1000) + " " + needle.dataset.x + " " + needle.dataset.y + ")");
      if (now.says !== last) {
        words.textContent = now.says;
        last = now.says;
      }
      words.dataset.state = now.state;
      hold(now.state === "settled");
    });
  }

  function hold(can) {
    document.querySelectorAll("[data-hold]").forEach(function (button) { button.disabled = !can; });
  }

  // A label is read with the camera where the browser can read codes; elsewhere it is typed.
  function offerCamera() {
    var button = document.getElementById("camera");
    if (button && "BarcodeDetector" in window && navigator.mediaDevices) {
      button.hidden = false;
    }
  }

  document.addEventListener("click", function (event) {
    if (event.target.id !== "camera") {
      return;
    }
    var view = document.getElementById("camera-view");
    navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } }).then(function (stream) {
      var detector = new window.BarcodeDetector({ formats: ["qr_code"] });
      view.hidden = false;
      view.srcObject = stream;
      view.play();
      var looking = setInterval(function () {
        if (!view.isConnected) {
          stop();
          return;
        }
        detector.detect(view).then(function (found) {
          if (found.length) {
            stop();
            document.getElementById("field-code").value = found[0].rawValue;
            document.getElementById("read-label").requestSubmit();
          }
        }).catch(function () { /* not ready yet */ });
      }, 250);
      function stop() {
        clearInterval(looking);
        stream.getTracks().forEach(function (track) { track.stop(); });
      }
    }).catch(function () { tell("The camera is not to be had. Type the code."); });
  });

  // What was done is said in one line; a verdict that changed is announced.
  var quiet = null;

  function tell(words) {
    var said = document.getElementById("said");
    said.textContent = words;
    clearTimeout(quiet);
    quiet = setTimeout(function () { said.textContent = ""; }, 6000);
  }

  // snapshot is what a page was like before it changed.
  function snapshot() {
    var page = document.getElementById("page");
    var state = document.getElementById("state").dataset;
    var active = document.activeElement;
    var verdict = document.getElementById("verdict");
    var row = active && active.closest && active.closest("[data-thing], tr, li");
    return { path: state.path, room: state.room || "", undoing: undoing, version: Number(state.version || 0), undo: state.undo || "", redo: state.redo || "",
      verdict: verdict ? verdict.textContent : "", focused: active && active !== document.body && page.contains(active),
      id: active ? active.id : "", row: row ? Array.prototype.indexOf.call(row.parentNode.children, row) : -1, list: row ? row.parentNode.parentNode.className : "" };
  }

  var before = null;
  var undoing = false;

  document.addEventListener("htmx:beforeSwap", function (event) {
    if (event.detail.target.id !== "page") {
      return;
    }
    before = snapshot();
    var to = new URL(event.detail.xhr.responseURL || location.href, location.href);
    var by = event.detail.requestConfig && event.detail.requestConfig.elt;
    keepTyping(to.pathname + to.search === location.pathname + location.search || event.detail.xhr.status >= 400 || by && by.contains(document.activeElement));
  });

  // What somebody is typing stays as it is when the page around it changes; a button's label follows. On another page a
  // field of the same name is another field.
  function keepTyping(here) {
    var box = document.getElementById("field-lines");
    boxed = box && !box.dataset.sent ? box.value : "";
    if (window.Idiomorph) {
      window.Idiomorph.defaults.ignoreActiveValue = Boolean(here) && typing(document.activeElement);
    }
  }

  function sayWhatChanged(now) {
    if (now.room && now.room === before.room && now.undo !== before.undo) {
      tell((now.undoing ? "Taken back: " + before.undo : "Done: " + now.undo) + ".");
    }
    if (now.version > before.version && now.path.split("/")[2] === before.path.split("/")[2]) {
      if (now.redo && now.redo !== before.redo && now.redo === before.undo) {
        tell("Taken back: " + now.redo + ".");
      } else if (now.undo && before.redo && now.undo === before.redo) {
        tell("Done again: " + now.undo + ".");
      } else if (now.undo) {
        tell("Done: " + now.undo + ".");
      }
    }
    if (now.path === before.path && now.verdict !== before.verdict) {
      document.getElementById("announced").textContent = now.verdict;
    }
  }

  // keepPlace puts the focus where it was, or where its row was; on another page, to its beginning.
  function keepPlace(now) {
    if (now.path !== before.path) {
      ["work", "side"].forEach(function (id) { document.getElementById(id).scrollTop = 0; });
      window.scrollTo(0, 0);
      var first = document.querySelector("[autofocus]");
      if (first) {
        first.focus({ preventScroll: true });
        return;
      }
    }
    if (!before.focused || now.focused) {
      return;
    }
    var again = before.id && document.getElementById(before.id);
    if (!again || again.disabled) {
      var chosen = document.querySelector(".side .chosen a, tr.chosen a");
      var list = before.list && document.getElementsByClassName(before.list)[0];
      var row = list && before.row >= 0 ? list.querySelectorAll("li, tr")[before.row] : null;
      again = now.path === before.path && (chosen || row && row.querySelector("a, button")) || document.getElementById("verdict");
    }
    again.focus({ preventScroll: now.path !== before.path });
  }

  document.addEventListener("htmx:afterSettle", function () {
    restoreBox();
    sayItEnded();
    if (before) {
      var now = snapshot();
      sayWhatChanged(now);
      keepPlace(now);
      before = null;
    }
    var chosen = document.querySelector(".side .chosen, tr.chosen");
    if (chosen) {
      chosen.scrollIntoView({ block: "nearest" });
    }
    if (player !== null && !document.getElementById("step-on")) {
      stopPlaying();
    }
    showPlaying();
    offerCamera();
    showStep();
    listen();
    listenToScale();
  });

  // On a narrow screen the road is scrolled to the step one is at.
  function showStep() {
    var current = document.querySelector(".road li.current");
    var road = current && current.parentNode;
    if (road && road.scrollWidth > road.clientWidth) {
      var at = current.getBoundingClientRect();
      var box = road.getBoundingClientRect();
      road.scrollLeft += at.left - box.left - (box.width - at.width) / 2;
    }
  }

  document.addEventListener("DOMContentLoaded", function () {
    offerCamera();
    showStep();
    listen();
    listenToScale();
    takeUp();
  });
})();
