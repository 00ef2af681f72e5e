{{-- work: the form that this page is for, which key n reaches; edit: where what is shown is changed, key e. --}}
@props(['title', 'verb' => '', 'work' => null, 'does' => null, 'edit' => null])
<!doctype html>
<html lang="en" data-watch="{{ $me->theme === 'night' ? 'night' : 'paper' }}" @if ($me->tables['dense'] ?? false) data-dense @endif>

<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <meta name="htmx-config" content='{"includeIndicatorStyles": false, "allowEval": false}'>
  <title>{{ $title }} | Harbor Post</title>
  <link rel="icon" href="/mark.svg" type="image/svg+xml">
  @vite(['resources/css/app.css', 'resources/js/app.js'])
</head>

<body>
  @include('parts.marks')
  <a class="skip" href="#sheet">To the page itself</a>
  @if ($work)
    <a class="skip" href="#{{ $work }}" data-reach="{{ $work }}">To {{ $does }}</a>
  @endif
  <div class="frame">
    @include('parts.rail', ['verb' => $verb, 'calling' => $frame->calls])
    <div class="top">
      <form class="find" action="{{ at('find') }}" role="search">
        <label class="sr" for="find">Find an address, prefix, name, MAC or VLAN number</label>
        <svg viewBox="0 0 16 16" fill="none" stroke="currentColor" stroke-width="1.5" aria-hidden="true">
          <circle cx="7" cy="7" r="4.5" />
          <path d="m10.5 10.5 4 4" />
        </svg>
        <input type="hidden" name="enter" value="1">
        <input type="search" id="find" name="q" value="{{ request()->is('find') ? request('q') : '' }}"
          placeholder="Find an address, prefix, name, MAC or VLAN number" autocomplete="off" spellcheck="false" aria-controls="quick"
          hx-get="{{ at('find.quick') }}" hx-trigger="input changed delay:120ms" hx-target="#quick" hx-sync="this:queue last">
        <kbd aria-hidden="true">/</kbd>
        <div id="quick" role="region" aria-label="Found so far"></div>
      </form>
      @if ($frame->edits > 0)
        <div class="draft"><span>Draft: {{ $frame->edits }} {{ $frame->edits === 1 ? 'edit' : 'edits' }}</span>
          <a href="{{ at('ship.draft.mine') }}">Rehearse</a>
        </div>
      @endif
      @if ($frame->waits > 0)
        <div class="draft"><span>{{ $frame->waits }} {{ $frame->waits === 1 ? 'draft waits' : 'drafts wait' }} for you</span>
          <a href="{{ at('ship.drafts') }}">Read</a>
        </div>
      @endif
      <details class="me">
        <summary aria-label="{{ $me->name }}: theme and sign out"><i
            aria-hidden="true">{{ $me->initials() }}</i><span>{{ $me->name }}<br><span
              class="hint">{{ implode(', ', array_map(fn($r) => str_replace('-', ' ', $r), $me->roles)) }}</span></span></summary>
        <div>
          <form method="post" action="{{ at('act', 'set-theme') }}">@csrf
            <input type="hidden" name="then" value="commit">
            <input type="hidden" name="stay" value="{{ request()->getRequestUri() }}"><input type="hidden" name="theme"
              value="{{ $me->theme === 'night' ? 'paper' : 'night' }}">
            <button class="btn">{{ $me->theme === 'night' ? 'Paper' : 'Night watch' }}</button>
          </form>
          <a class="btn" href="{{ at('me') }}">Password and sessions</a>
          <a class="btn" href="{{ at('guide.about') }}?page={{ urlencode(request()->getPathInfo()) }}">About this page</a>
          <form method="post" action="{{ at('sign-out') }}">@csrf
            <button class="btn">Sign out</button>
          </form>
        </div>
      </details>
    </div>
    <main class="sheet" id="sheet" tabindex="-1" @if ($work) data-work="{{ $work }}" @endif @if ($edit) data-edit="{{ $edit }}" @endif>
      @if ($work)
        <span hidden data-help-key="n" data-help-text="{{ $does }}"></span>
      @endif
      @if ($edit)
        <span hidden data-help-key="e" data-help-text="edit what this page shows"></span>
      @endif
      @if ($frame->looks)
        <div class="notice bad" role="status">
          @mark('warn')
          <span class="grow"><b>{{ $frame->looks->name }}, you see this as {{ $me->name }} does.</b> Nothing is written.</span>
          <form method="post" action="{{ at('directory.sees-as.end') }}">@csrf
            <button class="btn small">See as yourself again</button>
          </form>
        </div>
      @endif
      <p class="notice bad" id="said" role="alert" hidden></p>
      <p class="sr" aria-live="polite" id="follows-said"></p>
      @if (session('done'))
        <div class="notice" role="status">
          @mark('ok')
          <span class="grow">{{ session('done') }}</span>
          @foreach (session('next', []) as $step)
            <a class="btn small" href="{{ $step['link'] }}" data-step>{{ $step['words'] }} <kbd aria-hidden="true">{{ $loop->iteration }}</kbd></a>
          @endforeach
        </div>
      @endif
      @if ($frame->once !== null)
        <div class="notice" role="status">
          @mark('ok')
          <span class="grow">{{ $frame->onceWords }} <code class="mono">{{ $frame->once }}</code>. It is shown only now.</span>
        </div>
      @endif
      @if (session('bad'))
        <div class="notice bad" role="alert">@mark('stop')<span class="grow"><b>Nothing was written.</b> {{ session('bad') }}</span>
          @if (session('bad-link'))
            <a href="{{ session('bad-link') }}">Show it</a>
          @endif
        </div>
      @endif
      {{ $slot }}
    </main>
  </div>
</body>

</html>
