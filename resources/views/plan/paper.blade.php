<!doctype html>
<html lang="en" data-watch="paper">

<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <title>{{ $prefix->name ?: $net }} | Harbor Post</title>
  <link rel="icon" href="/mark.svg" type="image/svg+xml">@vite(['resources/css/app.css', 'resources/js/app.js'])
</head>

<body class="paper">
  @include('parts.marks')
  <main>
    <header class="title">
      <h1>{{ $prefix->name ?: $prefix->kind->value }}</h1>
      <span class="mono">{{ $net }}</span>
      <span
        class="soft">
      @php
        $words = [$prefix->space->name, $prefix->stage->value, $prefix->site?->name, $prefix->tenant?->name];
      @endphp
      {{ implode(', ', array_filter([...$words, $prefix->vlan ? 'VLAN ' . $prefix->vlan->line() : null])) }}
    </span>
      <span class="end soft">{{ now()->format('j M Y H:i') }} UTC <a class="btn small noprint" href="{{ at('plan.prefix', $prefix->id) }}">Back</a></span>
    </header>
    <dl class="facts">@include('plan.facts')</dl>
    @if ($ruler)
      <section class="chart" aria-label="Ruler of {{ $net }}"><svg class="strip" height="106" role="group">
          @foreach ($ruler->ticks as $t)
            <text class="mono" x="{{ $t['x'] }}%" dx="5" y="12">{{ $t['text'] }}</text>
            @endforeach @foreach (range(0, 14, 2) as $i)
              <rect class="bar" x="{{ $i * 6.25 }}%" y="16" width="6.25%" height="6" />
            @endforeach
            <rect class="box" y="16" width="100%" height="6" />{{ \App\View\Strip::draw($ruler->blocks, 22, 80, 9.5) }}
        </svg></section>
    @endif
    @if ($inside->isNotEmpty())
      <table>
        <thead>
          <tr>
            <th>Prefix</th>
            <th>Name</th>
            <th>Kind</th>
            <th>Stage</th>
            <th>Site</th>
            <th class="num">VLAN</th>
            <th>Gateway</th>
            <th class="num">Usable</th>
            <th class="num">In use</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($inside as $p)
            @php
              $lv = \App\View\Level::of($p);
            @endphp
            <tr @class(['holder' => $p->groups])>
              <td class="mono in{{ min(5, $depths[$p->id]) }}">{{ $p->prefix() }}</td>
              <td>{{ $p->name }}</td>
              <td>{{ $p->kind->value }}</td>
              <td>{{ $p->stage->value }}</td>
              <td>{{ $p->site?->name }}</td>
              <td class="num">{{ $p->vlan?->number }}</td>
              <td class="mono">{{ $p->gateway }}</td>
              <td class="num">
                @if ($p->isSubnet())
                  {{ ($u = \App\View\Level::usable($p->family, $p->length)) === null ? '2^' . (128 - $p->length) : number_format($u) }}
                @endif
              </td>
              <td class="num">{{ $lv->figure }}</td>
            </tr>
          @endforeach
        </tbody>
      </table>
      @if ($more)
        <p class="hint">and more; print its parts one by one</p>
      @endif
    @endif
    @if ($hosts->isNotEmpty())
      <table>
        <thead>
          <tr>
            <th>Address</th>
            <th>Name</th>
            <th>MAC</th>
            <th>Role</th>
            <th>Owner</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($hosts as $h)
            <tr>
              <td class="mono">{{ $h->address }}</td>
              <td class="mono">{{ $h->name }}</td>
              <td class="mono">{{ $h->mac }}</td>
              <td>{{ $h->role }}</td>
              <td>{{ $h->owner }}</td>
            </tr>
          @endforeach
        </tbody>
      </table>
    @endif
  </main>
</body>

</html>
