// Ticks are kept in this browser, so that the card picks up where one left off, also without network. A card that was
// opened by a link sends them home when there is a network, each once, and takes what others have ticked.
(function () {
  "use strict";
  var card = document.querySelector(".card");
  var home = card.dataset.home;
  var key = "ticks of " + (home ? location.pathname : card.dataset.trip);
  var ticks = {};
  try { ticks = JSON.parse(localStorage.getItem(key) || "{}"); } catch (e) { ticks = {}; }
  var boxes = Array.prototype.slice.call(document.querySelectorAll("input[data-key]"));

  function show() {
    var done = boxes.filter(function (box) { return box.checked; }).length;
    document.getElementById("done").textContent = done ? done + " of " + boxes.length + " done" : "";
  }

  function keep() {
    try {
      localStorage.setItem(key, JSON.stringify(ticks));
      localStorage.setItem("unsent " + key, JSON.stringify(unsent));
    } catch (e) { /* they last as long as the page */ }
  }

  // What is not home yet: by step, what it was set to and when.
  var unsent = {};
  try { unsent = JSON.parse(localStorage.getItem("unsent " + key) || "{}"); } catch (e) { unsent = {}; }
  var over = false;
  var under = false;

  function tell(words) {
    var line = document.getElementById("home");
    if (line && line.textContent !== words) {
      line.textContent = words;
    }
  }

  function send() {
    if (!home || over || under) {
      return;
    }
    under = true;
    var now = Date.now();
    var sent = JSON.parse(JSON.stringify(unsent));
    var list = Object.keys(sent).map(function (step) { return { key: step, state: sent[step].state, ago_ms: Math.max(0, now - sent[step].at) }; });
    fetch(home, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify({ ticks: list }) }).then(function (response) {
      if (response.status === 404 || response.status === 410) {
        over = true;
        throw new Error("over");
      }
      if (!response.ok) {
        throw new Error("not now");
      }
      return response.json();
    }).then(function (told) {
      Object.keys(sent).forEach(function (step) {
        if (unsent[step] && unsent[step].at === sent[step].at) {
          delete unsent[step];
        }
      });
      boxes.forEach(function (box) {
        if (!unsent[box.dataset.key]) {
          ticks[box.dataset.key] = box.checked = told.ticks[box.dataset.key] === "in";
        }
      });
      keep();
      show();
      tell(told.plan === card.dataset.plan ? "All ticks are home." : "All ticks are home. The plan has changed since this card was opened: reload it for the newest.");
    }).catch(function () {
      var n = Object.keys(unsent).length;
      tell(over ? "This link has ended. What is on the card stays; ticks stay on this device." :
        n ? n + (n === 1 ? " tick waits" : " ticks wait") + " on this device for a network." : "No network just now; ticks are kept on this device.");
    }).then(function () { under = false; });
  }

  boxes.forEach(function (box) {
    box.checked = Boolean(ticks[box.dataset.key]);
    box.addEventListener("change", function () {
      ticks[box.dataset.key] = box.checked;
      if (home) {
        unsent[box.dataset.key] = { state: box.checked ? "in" : "", at: Date.now() };
      }
      keep();
      show();
      send();
    });
  });
  if (home) {
    addEventListener("online", send);
    setInterval(send, 5000);
    send();
    if ("serviceWorker" in navigator) {
      navigator.serviceWorker.register("worker.js").catch(function () {
        document.getElementById("done").insertAdjacentText("afterend", "This browser does not keep the card for opening it without network. Leave it open, or print it.");
      });
    } else {
      document.getElementById("done").insertAdjacentText("afterend", "Over this connection the browser does not keep the card for opening it without network. Leave it open, or print it.");
    }
  }
  document.getElementById("print").addEventListener("click", function () { window.print(); });
  document.getElementById("clear").addEventListener("click", function () {
    boxes.forEach(function (box) {
      if (home && box.checked) {
        unsent[box.dataset.key] = { state: "", at: Date.now() };
      }
      box.checked = false;
    });
    ticks = {};
    keep();
    show();
    send();
  });
  show();
})();
