<x-layout :title="'Changed lately in ' . $zone->title()" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li><a href="{{ at('name.zone', $zone->id) }}">{{ $zone->title() }}</a></li>
      <li aria-current="page">Changed lately</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Changed lately</h1>
    <span class="soft">in {{ $zone->title() }}</span>
  </header>
  <section class="panel">
    @include('name.lately')
  </section>
</x-layout>
