<x-layout :title="$title">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('guide') }}">Guide</a></li>
      <li aria-current="page">{{ $title }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $title }}</h1>
    <span class="soft">{{ $lead }}</span>
  </header>
  <div class="split two guide">
    <div class="stack">
      @foreach ($tasks as $one)
        <section class="panel prose" id="{{ $one['task']->slug }}">
          <header>
            <h2>{{ $one['task']->title }}</h2>
          </header>
          <div class="pad-all">{!! $one['html'] !!}</div>
        </section>
      @endforeach
    </div>
    <nav class="side" aria-label="Tasks">
      <section class="panel">
        <ul class="plain-list pad-all">
          @foreach ($tasks as $one)
            <li><a href="#{{ $one['task']->slug }}">{{ $one['task']->title }}</a></li>
          @endforeach
        </ul>
      </section>
    </nav>
  </div>
</x-layout>
