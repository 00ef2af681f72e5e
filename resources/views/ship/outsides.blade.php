<x-layout title="Systems outside" verb="ship" :work="$may ? 'outside' : null" does="write one down">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('ship') }}">Servers</a></li>
      <li aria-current="page">Systems outside</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Systems outside</h1>
    <span class="soft">that hold pools and parts of them: compared with the plan, and brought in step either way</span>
  </header>
  <div class="split @if ($may) two @endif">
    <section class="panel">
      @if ($outsides->isEmpty())
        <x-empty title="None yet">A system that holds pools of addresses by itself is written down with its address and token. Each prefix of either side
          then stands in one line: the same, different, missing, or not allowed there.</x-empty>
      @else
        <x-table label="Systems outside" data-worktable>
          <thead>
            <tr>
              <th>System</th>
              <th>About</th>
              <th>Who leads</th>
              <th>Compared</th>
              <th class="num">Same</th>
              <th class="num">Different or missing</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($outsides as $o)
              @php
                $s = $states[$o->id] ?? null;
                $counts = (array) json_decode($s->counts ?? '[]', true);
              @endphp
              <tr>
                <td class="name"><a href="{{ at('ship.outside.one', $o->id) }}">{{ $o->name }}</a><br><span class="hint mono">{{ $o->address }}</span></td>
                <td class="wrap">{{ $o->under ? $o->under->prefix() . ' ' . $o->under->name : 'all' }} in {{ $o->space->name }}</td>
                <td class="wrap">{{ $o->leads->words($o->name) }}{{ $o->keeps ? ', by itself' : '' }}</td>
                <td class="wrap">
                  @if ($s?->problem)
                    @mark('stop') {{ $s->problem }}
                  @elseif($s?->compared_at)
                    {{ \Carbon\CarbonImmutable::parse($s->compared_at)->diffForHumans() }}
                  @else
                    <span class="open">not yet</span>
                  @endif
                </td>
                <td class="num">{{ $counts === [] ? '' : number_format($counts['same'] ?? 0) }}</td>
                <td class="num">{{ $counts === [] ? '' : number_format(array_sum($counts) - ($counts['same'] ?? 0)) }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      @endif
    </section>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>Write one down</h2>
          </header>
          <div class="pad">
            <x-act id="outside" action="keep-outside">
              @include('ship.outside-fields', ['outside' => null])
            </x-act>
          </div>
        </section>
        <x-follows-slot form="outside" />
      </div>
    @endif
  </div>
</x-layout>
