<x-layout title="For programs">
  <header class="title">
    <h1>For programs</h1>
    <span class="soft">the same lists, acts, checks and rights as here, as JSON</span>
    <span class="end row">
      <a class="btn small" href="{{ at('graph') }}">Questions across objects</a>
      <a class="btn small" href="{{ at('me') }}">Tokens</a>
      <a class="btn small" href="{{ at('api.v1.openapi') }}">Description, OpenAPI 3.1</a>
    </span>
  </header>
  <section class="panel" aria-label="Try it">
    <header>
      <h2>Try it</h2>
      <span class="soft">as a program would, with a token; it stays in this page</span>
    </header>
    <form class="pad-all form" data-try data-base="{{ $base }}">
      <div class="split even">
        <div class="stack">
          <div class="pair">
            <div class="field"><span><label for="try-what">Ask for</label></span>
              <select id="try-what" name="what">
                <optgroup label="Lists">
                  @foreach ($lists as $name => $filters)
                    <option value="{{ $name }}" data-filters="{{ implode(' ', $filters) }}">{{ $name }}</option>
                  @endforeach
                </optgroup>
                <optgroup label="Acts">
                  @foreach ($examples as $key => $example)
                    <option value="acts/{{ $key }}" data-example="{{ $example }}">{{ $key }}</option>
                  @endforeach
                </optgroup>
              </select>
            </div>
            <div class="field"><span><label for="try-token">Token</label></span>
              <input id="try-token" name="token" type="password" class="mono" autocomplete="off" placeholder="hp_…" required>
              <span class="hint">made on <a href="{{ at('me') }}">your own page</a></span>
            </div>
          </div>
          <div class="field"><span><label for="try-more">Filters</label></span>
            <input id="try-more" name="more" class="mono" value="limit=5" spellcheck="false" autocomplete="off">
          </div>
          <div class="field" hidden><span><label for="try-body">Body</label></span>
            <textarea id="try-body" name="body" class="mono" rows="9" spellcheck="false"></textarea>
            <span class="hint">rehearsed: without that it is committed</span>
          </div>
          <div class="row">
            <button class="btn main" data-key="main">Send <kbd>Ctrl Enter</kbd></button>
            <span data-said role="status"></span>
          </div>
        </div>
        <div class="stack">
          <pre class="made" tabindex="0" aria-label="The same on a command line" data-line></pre>
          <pre class="made tall" tabindex="0" aria-label="The answer" data-answer hidden></pre>
        </div>
      </div>
      <noscript>
        <p class="hint">This needs script; the lines below do not.</p>
      </noscript>
    </form>
  </section>
  <div class="split even">
    <section class="panel">
      <header>
        <h2>Three lines to begin with</h2>
      </header>
      <div class="pad-all">
        <p class="hint">What there is of a prefix:</p>
        <pre class="hexdump lines" tabindex="0">curl -H "Authorization: Bearer $TOKEN" {{ $base }}/prefixes?within=10.36.0.0/16</pre>
        <p class="hint">One of them, by what you know of it:</p>
        <pre class="hexdump lines" tabindex="0">curl -H "Authorization: Bearer $TOKEN" {{ $base }}/zones/kittiwake.example</pre>
        <p class="hint">An act, rehearsed: what follows, and nothing written. Without rehearse it is committed.</p>
        <pre class="hexdump lines" tabindex="0">curl -H "Authorization: Bearer $TOKEN" -H "Content-Type: application/json" \
  -d '{"input": {"prefix": "10.36.8.0/22", "name": "kiosk-9"}, "rehearse": true}' \
  {{ $base }}/acts/place-host</pre>
        <ul class="plain-list">
          <li>Several acts as one transaction: <span class="mono">POST /acts</span> with a list.</li>
          <li><span class="mono">"draft": true</span> adds to your draft; <span class="mono">"reason"</span> goes with warnings.</li>
          <li><span class="mono">Idempotency-Key</span>: sent again within a day, it is answered as it was and not done twice.</li>
          <li><span class="mono">"expects": {"prefix:ID": 3}</span> writes only over the version that you saw.</li>
          <li>Lists come in pages (<span class="mono">Link: rel="next"</span>), or whole as lines with <span
              class="mono">Accept: application/x-ndjson</span>.</li>
          <li>What does not go is told as problem details <span class="rfc">RFC 9457</span>, with the field as a JSON Pointer.</li>
        </ul>
      </div>
    </section>
    <section class="panel">
      <header>
        <h2>Lists and their filters</h2>
      </header>
      <x-table label="Lists" data-worktable>
        <thead>
          <tr>
            <th>List</th>
            <th>Filtered by</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($lists as $name => $filters)
            <tr>
              <td class="mono">/{{ $name }}</td>
              <td class="wrap mono soft">{{ implode(' ', $filters) }}</td>
            </tr>
          @endforeach
        </tbody>
      </x-table>
    </section>
  </div>
  <section class="panel">
    <header>
      <h2>Acts</h2>
      <span class="soft">those that you may do</span>
    </header>
    <x-table label="Acts" data-worktable>
      <thead>
        <tr>
          <th>Act</th>
          <th>Inputs; those with a star are needed</th>
        </tr>
      </thead>
      <tbody>
        @foreach ($acts as $key => $inputs)
          <tr>
            <td class="mono">/acts/{{ $key }}</td>
            <td class="wrap mono soft">{{ implode(' ', $inputs) }}</td>
          </tr>
        @endforeach
      </tbody>
    </x-table>
  </section>
</x-layout>
