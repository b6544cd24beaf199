// Runs before anything else is there: who is not signed in finds the form at once, and what they type is taken over when the code comes.
(function () {
  try {
    if (localStorage.getItem('signed-in') === '1') return;
  } catch {
    // Where nothing is kept nobody stays signed in.
  }
  document.documentElement.className = 'early';
  document.addEventListener('submit', function (e) {
    if (e.target.id !== 'early-form') return;
    e.preventDefault();
    e.target.dataset.submitted = '1';
    document.getElementById('early-key').textContent = 'Signing in as soon as Gavrel is here…';
  });
})();
