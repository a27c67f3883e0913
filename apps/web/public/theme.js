// Sets the looks a person chose before the first paint, so that a dark screen never flashes light.
(function () {
  var root = document.documentElement;
  try {
    var theme = localStorage.getItem('fuller.theme');
    var dark = theme ? theme === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
    root.dataset.theme = dark ? 'dark' : 'light';
    root.dataset.density = localStorage.getItem('fuller.density') || 'comfortable';
  } catch {
    root.dataset.theme = 'light';
    root.dataset.density = 'comfortable';
  }
})();
