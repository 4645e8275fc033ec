(function () {
  'use strict';
  var phrases = Array.prototype.slice.call(document.querySelectorAll('section.phrase'));
  var state = document.getElementById('state');
  var chosen = -1;
  var speed = 0;
  function sounds(section) { return Array.prototype.slice.call(section.querySelectorAll('audio')); }
  function all() { return Array.prototype.slice.call(document.querySelectorAll('audio, video')); }
  function quiet() { all().forEach(function (one) { one.pause(); }); }
  function say(text) { state.textContent = text; }
  function choose(index, move) {
    if (phrases.length === 0) { return; }
    if (chosen >= 0) { phrases[chosen].classList.remove('chosen'); phrases[chosen].removeAttribute('aria-current'); }
    chosen = Math.max(0, Math.min(phrases.length - 1, index));
    phrases[chosen].classList.add('chosen');
    phrases[chosen].setAttribute('aria-current', 'true');
    if (move) {
      var head = phrases[chosen].querySelector('h2');
      head.focus({ preventScroll: true });
      phrases[chosen].scrollIntoView({ block: 'start' });
    }
    say(phrases[chosen].dataset.chosen);
  }
  function player() {
    if (chosen < 0) { choose(0, false); }
    var list = chosen < 0 ? [] : sounds(phrases[chosen]);
    return list[Math.max(0, Math.min(list.length - 1, speed))];
  }
  function toggle() {
    var one = player();
    if (!one) { return; }
    if (!one.paused) { one.pause(); say(document.body.dataset.stopped); return; }
    quiet();
    one.currentTime = 0;
    var begun = one.play();
    if (begun && begun.catch) { begun.catch(function () { say(document.body.dataset.stopped); }); }
    say(phrases[chosen].dataset.playing);
  }
  function faster(step) {
    var was = player();
    var playing = was && !was.paused;
    var list = chosen < 0 ? [] : sounds(phrases[chosen]);
    speed = Math.max(0, Math.min(list.length - 1, speed + step));
    if (list[speed]) { say(list[speed].getAttribute('aria-label')); }
    if (playing) { quiet(); toggle(); }
  }
  all().forEach(function (one) {
    one.addEventListener('play', function () {
      all().forEach(function (other) { if (other !== one) { other.pause(); } });
    });
  });
  Array.prototype.forEach.call(document.querySelectorAll('button[data-film]'), function (button) {
    button.addEventListener('click', function () {
      var film = document.getElementById(button.dataset.film);
      film.currentTime = Number(button.dataset.at);
      var begun = film.play();
      if (begun && begun.catch) { begun.catch(function () { say(document.body.dataset.stopped); }); }
      say(button.getAttribute('aria-label'));
    });
  });
  document.addEventListener('keydown', function (event) {
    if (event.ctrlKey || event.altKey || event.metaKey) { return; }
    if (/^(INPUT|TEXTAREA|SELECT|BUTTON|AUDIO|VIDEO|A|SUMMARY)$/.test(event.target.tagName) && event.key === ' ') { return; }
    var key = event.key.toLowerCase();
    if (key === ' ') { toggle(); }
    else if (key === 'n') { choose(chosen + 1, true); }
    else if (key === 'p') { choose(chosen - 1, true); }
    else if (key === 's') { faster(-1); }
    else if (key === 'f') { faster(1); }
    else if (key === 'home') { quiet(); window.scrollTo(0, 0); choose(0, false); return; }
    else { return; }
    event.preventDefault();
  });
}());
