<x-layout title="Guide">
  <header class="title">
    <h1>Guide</h1>
    <span class="soft">task by task, for each of the people here</span>
  </header>
  <form class="bar-line" action="{{ at('guide') }}" role="search" aria-label="In the guides">
    <label class="sr" for="in-guides">Words</label>
    <input id="in-guides" name="q" type="search" value="{{ $asked }}" placeholder="carve, drift, take back">
    <button class="btn small">Look</button>
  </form>
  @if ($asked !== '')
    <section class="panel">
      <header>
        <h2>With "{{ $asked }}"</h2>
      </header>
      <ul class="plain-list pad-all">
        @forelse ($found as $task)
          <li><a href="{{ $task->link() }}">{{ $task->title }}</a> <span class="hint">{{ $task->of }}</span></li>
        @empty
          <li class="hint">No task of the guides has these words.</li>
        @endforelse
      </ul>
    </section>
  @endif
  <div class="guides">
    @foreach ($guides as $name => $guide)
      <section class="panel">
        <header>
          <h2><a href="{{ at('guide.one', $name) }}">{{ $guide['title'] }}</a></h2>
        </header>
        <p class="pad hint">{{ $guide['lead'] }}</p>
        <ul class="plain-list pad-all">
          @foreach ($guide['tasks'] as $task)
            <li><a href="{{ $task->link() }}">{{ $task->title }}</a></li>
          @endforeach
        </ul>
      </section>
    @endforeach
    <section class="panel">
      <header>
        <h2>To look up</h2>
      </header>
      <ul class="plain-list pad-all">
        <li><a href="{{ at('guide.commands') }}">Commands</a></li>
        @unless (auth()->user()->isBound())
          <li><a href="{{ at('guide.settings') }}">Settings</a></li>
        @endunless
        <li><a href="{{ at('api') }}">For programs</a></li>
      </ul>
    </section>
  </div>
</x-layout>
