<x-layout title="Questions across objects">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('api') }}">For programs</a></li>
      <li aria-current="page">Questions</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Questions across objects</h1>
    <span class="soft">GraphQL, read-only: what you may see, in one answer</span>
  </header>
  <div class="split even">
    <section class="panel" aria-label="Question">
      <header>
        <h2>Question</h2>
      </header>
      <form class="pad form" method="post" action="{{ at('graph') }}">
        @csrf
        <div class="field">
          <label for="query">GraphQL</label>
          <textarea id="query" name="query" class="mono" rows="22" spellcheck="false" required maxlength="50000">{{ $query }}</textarea>
        </div>
        <div class="row">
          <button class="btn main" data-key="main">Ask <kbd>Ctrl Enter</kbd></button>
          <span class="hint">a program sends it to <code>POST /api/v1/graphql</code></span>
        </div>
      </form>
      <div class="pad">
        <h3>To begin with</h3>
        <ul class="plain-list">
          @foreach ($examples as $title => $text)
            <li>
              <form method="post" action="{{ at('graph') }}">
                @csrf
                <input type="hidden" name="query" value="{{ $text }}">
                <button class="btn small">{{ $title }}</button>
              </form>
            </li>
          @endforeach
        </ul>
      </div>
    </section>
    <div class="stack">
      <section class="panel" aria-label="Answer" aria-live="polite">
        <header>
          <h2>Answer</h2>
        </header>
        @foreach ($faults as $fault)
          <p class="pad stopped">@mark('stop') {{ $fault }}</p>
        @endforeach
        @if ($answer === null)
          <p class="pad hint">Nothing was asked yet. The question on the left is an example that can be asked as it stands.</p>
        @else
          <pre class="made tall" tabindex="0">{{ $answer }}</pre>
        @endif
      </section>
      <section class="panel" aria-label="What can be asked">
        <header>
          <h2>What can be asked</h2>
          <span class="soft">{{ count($types) }} types</span>
        </header>
        @foreach ($types as $name => $text)
          <details class="more" @if ($name === 'Query') open @endif>
            <summary class="pad mono">{{ $name }}</summary>
            <pre class="made tall" tabindex="0">{{ $text }}</pre>
          </details>
        @endforeach
      </section>
    </div>
  </div>
</x-layout>
