<x-layout title="Audits" verb="watch">
  <header class="title">
    <h1>Audits</h1>
    <span class="soft">rules of the team about its data, run every night</span>
    <span class="end row">
      @include('watch.tabs', ['here' => at('watch.audits')])
      @if ($may)
        <a class="btn main small" href="{{ at('watch.audits.write') }}">Make an audit</a>
      @endif
    </span>
  </header>
  <section class="panel">
    @if ($audits->isEmpty())
      <x-empty title="No rule yet">Each live subnet at a terminal has a gateway and a VLAN: a rule like that is made of choices, tried before it is
        kept, and run every night.</x-empty>
    @else
      <x-table label="Audits" data-worktable>
        <thead>
          <tr>
            <th>Audit</th>
            <th>Rule</th>
            <th>Severity</th>
            <th class="num">Fail</th>
            <th>Over 30 days</th>
            <th>Run</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($audits as $a)
            <tr @class(['open' => !$a->active])>
              <td class="name"><a href="{{ at('watch.audit', $a->id) }}">{{ $a->name }}</a></td>
              <td class="wrap">{{ \App\Queries\AuditTable::sentence($a) }}</td>
              <td>{{ $a->severity->value }}</td>
              <td class="num">
                @if ($a->run_at === null)
                  <span class="open">not run</span>
                @else
                  @mark($a->failing === 0 ? 'ok' : ['error' => 'stop', 'warning' => 'warn'][$a->severity->value] ?? 'turn') {{ number_format($a->failing) }}
                @endif
              </td>
              <td>{{ \App\View\Sparkline::of(($days[$a->id] ?? collect())->pluck('failing')->all()) }}</td>
              <td>{{ $a->active ? ($a->run_at?->diffForHumans() ?? '') : 'off' }}</td>
            </tr>
          @endforeach
        </tbody>
      </x-table>
    @endif
  </section>
</x-layout>
