// Ticks are kept in this browser, by trip, so that the card picks up where one left off, also without network.
(function () {
  "use strict";
  var card = document.querySelector(".card");
  var key = "ticks of " + card.dataset.trip;
  var ticks = {};
  try { ticks = JSON.parse(localStorage.getItem(key) || "{}"); } catch (e) { ticks = {}; }
  var boxes = Array.prototype.slice.call(document.querySelectorAll("input[data-key]"));

  function show() {
    var done = boxes.filter(function (box) { return box.checked; }).length;
    document.getElementById("done").textContent = done ? done + " of " + boxes.length + " done" : "";
  }

  boxes.forEach(function (box) {
    box.checked = Boolean(ticks[box.dataset.key]);
    box.addEventListener("change", function () {
      ticks[box.dataset.key] = box.checked;
      try { localStorage.setItem(key, JSON.stringify(ticks)); } catch (e) { /* they last as long as the page */ }
      show();
    });
  });
  document.getElementById("print").addEventListener("click", function () { window.print(); });
  document.getElementById("clear").addEventListener("click", function () {
    boxes.forEach(function (box) { box.checked = false; });
    ticks = {};
    try { localStorage.removeItem(key); } catch (e) { /* nothing was kept */ }
    show();
  });
  show();
})();
