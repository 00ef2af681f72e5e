<x-layout title="About this page">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('guide') }}">Guide</a></li>
      <li aria-current="page">About a page</li>
    </ol>
  </nav>
  <header class="title">
    <h1>About this page</h1>
    <a class="mono soft" href="{{ $path }}">{{ $path }}</a>
  </header>
  <section class="panel">
    <ul class="plain-list pad-all">
      @forelse ($tasks as $task)
        <li><a href="{{ $task->link() }}">{{ $task->title }}</a> <span class="hint">{{ $task->of }}</span></li>
      @empty
        <li class="hint">No task of the guides is about this page alone. <a href="{{ at('guide') }}">All guides</a></li>
      @endforelse
    </ul>
  </section>
</x-layout>
