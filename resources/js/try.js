/** The page about the API sends a request as a program would: with a token, which stays in this page alone. */
export function trying() {
  const form = document.querySelector('[data-try]');
  if (!form) return;
  const what = form.querySelector('[name=what]');
  const more = form.querySelector('[name=more]');
  const body = form.querySelector('[name=body]');
  const line = form.querySelector('[data-line]');
  const said = form.querySelector('[data-said]');
  const answer = form.querySelector('[data-answer]');
  const option = () => what.selectedOptions[0];
  const address = () => `${form.dataset.base}/${what.value}${more.value && !acts() ? `?${more.value.replace(/^\?/, '')}` : ''}`;
  const acts = () => option().dataset.example !== undefined;

  function show() {
    more.closest('.field').hidden = acts();
    body.closest('.field').hidden = !acts();
    const json = acts() ? ` -H "Content-Type: application/json" \\\n  -d '${body.value.replace(/\s+/g, ' ')}'` : '';
    line.textContent = `curl -H "Authorization: Bearer $TOKEN"${json} \\\n  "${address()}"`;
  }

  what.addEventListener('change', () => {
    body.value = option().dataset.example ?? '';
    more.value = option().dataset.filters ? `limit=5` : '';
    show();
  });
  form.addEventListener('input', show);
  form.addEventListener('submit', async (event) => {
    event.preventDefault();
    said.textContent = 'asking …';
    const began = performance.now();
    try {
      const response = await fetch(address(), {
        method: acts() ? 'POST' : 'GET',
        headers: {
          Authorization: `Bearer ${form.querySelector('[name=token]').value.trim()}`,
          Accept: 'application/json',
          ...(acts() ? { 'Content-Type': 'application/json' } : {}),
        },
        body: acts() ? body.value : undefined,
        credentials: 'omit',
      });
      const text = await response.text();
      said.textContent = `${response.status} after ${Math.round(performance.now() - began)} ms`;
      answer.hidden = false;
      try {
        answer.textContent = JSON.stringify(JSON.parse(text), null, 2);
      } catch {
        answer.textContent = text;
      }
    } catch (error) {
      said.textContent = `It could not be asked: ${error.message}`;
    }
  });
  show();
}
