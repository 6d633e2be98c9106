// The little that the page does by itself: keys, the list of keys, and keeping the chosen thing in view. Everything
// else is links and forms, which htmx fetches in place.
(function () {
  "use strict";

  // What somebody is typing stays as it is when the page around it changes.
  if (window.Idiomorph) {
    window.Idiomorph.defaults.ignoreActiveValue = true;
  }

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
    element.focus();
    if (element.select) {
      element.select();
    }
    return true;
  }

  var keys = {
    ArrowDown: function () { return step(1); },
    ArrowUp: function () { return step(-1); },
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
    s: function () { return click("#take-suggestion") || click("#suggest"); },
    w: function () { return click("#stopwatch"); },
    n: function () { return focus("#field-new") || focus("#field-trip"); },
    e: function () { return click("#edit") || focus("#field-name"); },
    "/": function () { return focus("#field-q"); },
    u: function () { return click("#undo"); },
    r: function () { return click("#redo"); },
    Escape: function () { return click("[data-let-go]"); }
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

  function listen() {
    var form = document.getElementById("searching");
    if (!form) {
      if (listening) {
        listening.close();
        listening = null;
      }
      return;
    }
    if (listening) {
      return;
    }
    listening = new EventSource(form.getAttribute("data-progress"));
    listening.addEventListener("progress", function (event) {
      var trials = document.getElementById("trials");
      if (trials) {
        trials.textContent = ", " + event.data + " tried";
      }
    });
    listening.addEventListener("done", function () {
      listening.close();
      listening = null;
      if (document.getElementById("searching")) {
        window.htmx.ajax("GET", location.pathname + location.search, { target: "#page", select: "#page", swap: "morph:outerHTML" });
      }
    });
  }

  function typing(target) {
    return target.isContentEditable || /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName) && target.type !== "checkbox" && target.type !== "range";
  }

  document.addEventListener("alpine:init", function () {
    window.Alpine.data("shell", function () {
      return {
        help: function () { document.getElementById("keys").showModal(); },
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
          if (event.ctrlKey || event.metaKey || event.altKey || document.getElementById("keys").open) {
            return;
          }
          if (typing(event.target)) {
            if (event.key === "Escape") {
              event.target.blur();
            }
            return;
          }
          var done = false;
          if (event.key === " " && /^(A|BUTTON|SUMMARY)$/.test(event.target.tagName)) {
            return;
          }
          if (event.key === "?") {
            this.help();
            done = true;
          } else if (/^[1-9]$/.test(event.key)) {
            done = click('[data-key="' + event.key + '"]');
          } else {
            var action = keys[event.key.length === 1 ? event.key.toLowerCase() : event.key];
            done = action ? action() : false;
          }
          if (done) {
            event.preventDefault();
          }
        }
      };
    });
  });

  // A thing in the drawing is chosen like its line in the list.
  document.addEventListener("click", function (event) {
    var thing = event.target.closest("svg [data-step]");
    if (thing) {
      var link = document.querySelectorAll(".side [data-order]")[Number(thing.getAttribute("data-step")) - 1];
      if (link) {
        link.click();
      }
    }
  });

  // A thing on the groundsheet is chosen like its line in the table.
  document.addEventListener("click", function (event) {
    var thing = event.target.closest("svg [data-line]");
    if (thing) {
      click('[data-line-of="' + CSS.escape(thing.getAttribute("data-line")) + '"]');
    }
  });

  // A new thing that was added leaves the input empty for the next one; one that was refused stays in it.
  document.addEventListener("htmx:afterRequest", function (event) {
    if (event.target.id !== "add" || !event.detail.xhr || event.detail.xhr.status >= 400) {
      return;
    }
    var input = document.getElementById("field-new");
    input.value = "";
    document.getElementById("told").textContent = "";
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

  document.addEventListener("htmx:afterSettle", function () {
    var chosen = document.querySelector(".side .chosen, tr.chosen");
    if (chosen) {
      chosen.scrollIntoView({ block: "nearest" });
    }
    if (player !== null && !document.getElementById("step-on")) {
      stopPlaying();
    }
    showPlaying();
    listen();
  });
  document.addEventListener("DOMContentLoaded", listen);
})();
