// Collects, for every frame, what a reader with poor or no sight would miss.
window.onload = function () {
  function luminance(colour) {
    var parts = colour.match(/[\d.]+/g).slice(0, 3).map(function (x) {
      x = x / 255;
      return x <= 0.03928 ? x / 12.92 : Math.pow((x + 0.055) / 1.055, 2.4);
    });
    return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2];
  }
  function background(view, element) {
    for (var e = element; e; e = e.parentElement) {
      var colour = view.getComputedStyle(e).backgroundColor;
      if (!/, 0\)$|transparent/.test(colour)) return colour;
    }
    return 'rgb(255, 255, 255)';
  }
  function faults(view, d) {
    var out = [], last = 0, names = {};
    function all(what) { return [].slice.call(d.querySelectorAll(what)); }
    if (!d.documentElement.lang) out.push('language');
    if (!d.title) out.push('title');
    all('main h1, main h2, main h3, main h4, main h5, main h6, header h1, body > h1, body > h3').forEach(function (h) {
      var level = +h.tagName[1];
      if (level > last + 1) out.push('heading ' + level + ' after ' + last);
      last = level;
    });
    all('img').forEach(function (i) { if (!i.alt) out.push('picture without text'); });
    all('figure svg').forEach(function (s) {
      if (s.getAttribute('role') !== 'img' || !s.querySelector('title')) out.push('drawing without text');
    });
    all('table').forEach(function (t) {
      if (!t.caption) out.push('table without caption');
      if (!t.querySelector('thead th[scope=col]') || !t.querySelector('tbody th[scope=row]')) out.push('table without heads');
    });
    all('[id]').forEach(function (e) {
      if (names[e.id]) out.push('twice the name ' + e.id);
      names[e.id] = true;
    });
    all('a[href^="#"]').forEach(function (a) {
      if (!d.getElementById(a.getAttribute('href').slice(1))) out.push('link to nowhere ' + a.getAttribute('href'));
    });
    all('[tabindex]').forEach(function (e) { if (e.tabIndex > 0) out.push('order of the keyboard'); });
    all('p, li, a, td, th, caption, figcaption, h1, h2, h3, h4, summary, code').forEach(function (e) {
      if (!e.innerText || !e.offsetParent) return;
      var ink = luminance(view.getComputedStyle(e).color), paper = luminance(background(view, e));
      var ratio = (Math.max(ink, paper) + 0.05) / (Math.min(ink, paper) + 0.05);
      if (ratio < 4.5) out.push('contrast of ' + e.innerText.slice(0, 30));
    });
    return out.filter(function (x, i) { return out.indexOf(x) === i; });
  }
  var out = [];
  document.querySelectorAll('iframe').forEach(function (f) {
    var d = f.contentDocument, view = f.contentWindow;
    var asked = view.performance.getEntriesByType('resource').filter(function (e) { return !/^data:/.test(e.name); });
    var broken = [].filter.call(d.images, function (i) { return !i.complete || i.naturalWidth === 0; });
    var pictures = d.querySelectorAll('figure svg, img').length;
    var seen = [d.documentElement.scrollWidth, asked.length, broken.length, pictures].join(' ');
    out.push([seen].concat(faults(view, d)).join('|'));
  });
  document.title = 'SEEN ' + out.join(';') + '.END';
};
