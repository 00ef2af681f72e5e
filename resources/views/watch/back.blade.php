<x-layout title="The way back" verb="watch" work="back" does="take it back">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="/watch">History</a></li>
      <li aria-current="page">The way back</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $title }}</h1>
    <span class="soft">{{ number_format($rows) }} {{ Str::plural('row', $rows) }} of the plan, computed from the history</span>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Changed since</h2>
          @if ($stays !== [])
            <span class="warn">@mark('warn') {{ count($stays) }} {{ count($stays) === 1 ? 'object stays' : 'objects stay' }} as
              {{ count($stays) === 1 ? 'it is' : 'they are' }}</span>
          @endif
        </header>
        @if ($stays === [])
          <x-empty title="Nobody changed any of it since">All of it goes back, by the rules of each kind: names, tree and ranges are looked at as if it
            were done by hand.</x-empty>
        @else
          <ul class="lines pad">
            @foreach ($stays as $object => $note)
              <li>
                <label class="tick"><input type="checkbox" form="back" name="leave[]" value="{{ $object }}" checked>
                  <span><b>{{ rtrim($note->message, '.') }}.</b> {{ $note->why }}
                    @if ($note->link)
                      <a href="{{ $note->link }}">Show it</a>
                    @endif
                  </span></label>
              </li>
            @endforeach
          </ul>
          <p class="hint pad">What is ticked stays as it is; the rest goes back.</p>
        @endif
      </section>
      <x-act id="back" action="take-back" data-look>
        @foreach ($acts as $act)
          <input type="hidden" name="acts[]" value="{{ $act }}">
        @endforeach
      </x-act>
    </div>
    <aside class="side">
      <div id="follows-back" class="follows-slot">
        <div class="waiting">
          <p><button class="btn small" form="back" name="then" value="preview">Show what follows</button></p>
        </div>
      </div>
    </aside>
  </div>
</x-layout>
