@php
  $open = array_filter($steps, fn($s) => $s['must'] && $s['done'] === 0);
@endphp
<x-layout title="First steps" verb="bridge">
  <header class="title">
    <h1>First steps</h1>
    <span class="soft">
      {{ $open === [] ? 'everything is there' : count($open) . ' of ' . count($steps) . (count($open) === 1 ? ' is open' : ' are open') }}
    </span>
  </header>
  <section class="panel">
    <x-table label="First steps">
      <thead>
        <tr>
          <th class="num">Step</th>
          <th>What</th>
          <th>Why</th>
          <th class="num">There</th>
        </tr>
      </thead>
      <tbody>
        @foreach ($steps as $i => $s)
          <tr>
            <td class="num">{{ $i + 1 }}</td>
            <td class="name">
              @mark($s['done'] > 0 ? 'ok' : 'wait')
              @if ($s['link'] === '')
                {{ $s['title'] }}
              @else
                <a href="{{ $s['link'] }}">{{ $s['title'] }}</a>
              @endif
            </td>
            <td class="wrap">{{ $s['why'] }}</td>
            <td class="num">{{ $s['done'] > 0 ? number_format($s['done']) : '' }}</td>
          </tr>
        @endforeach
      </tbody>
    </x-table>
  </section>
</x-layout>
