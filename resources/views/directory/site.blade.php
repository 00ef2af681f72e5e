<x-layout :title="$site->name" verb="directory">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('directory.list', 'sites') }}">Sites</a></li>
      @if ($within)
        <li><a href="{{ at('directory.site', $within->id) }}">{{ $within->name }}</a></li>
      @endif
      <li aria-current="page">{{ $site->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $site->name }}</h1>
    <span class="soft">{{ $prefixes->count() }} prefixes{{ $owner === '' ? '' : "; owner: $owner" }}</span>
    @if ($inside->isNotEmpty())
      <span class="end">
        holds
        @foreach ($inside as $s)
          <a href="{{ at('directory.site', $s->id) }}">{{ $s->name }}</a>{{ $loop->last ? '' : ',' }}
        @endforeach
      </span>
    @endif
  </header>
  <div class="split two">
    <section class="panel">
      <header>
        <h2>Prefixes</h2>
        <span class="end row"><a class="btn small" href="{{ at('plan.summary') }}?site={{ $site->id }}">Summarise</a></span>
      </header>
      @if ($prefixes->isEmpty())
        <div class="empty">
          <h3>No prefix names this site</h3>
          <p class="soft">Prefixes inside one that names it belong to it all the same.</p>
        </div>
      @else
        @include('plan.rows', ['rows' => $prefixes->all(), 'next' => null, 'pick' => false])
      @endif
    </section>
    <div class="side">
      @if ($may)
        @include('directory.change', ['noun' => 'site', 'row' => $site])
      @endif
      <section class="panel">
        <header>
          <h2>Settings that flow down</h2>
        </header>
        @include('parts.layers', ['layer' => 'site', 'object' => $site->id])
      </section>
    </div>
  </div>
</x-layout>
