<nav aria-label="Above">
  <ol class="path">
    <li><a href="{{ at('lease') }}">Scopes</a></li>
    <li aria-current="page">{{ $scope->name }}</li>
  </ol>
</nav>
<header class="title">
  <h1>{{ $scope->name }}</h1>
  <a class="mono" href="{{ at('plan.prefix', $prefix->id) }}">{{ $net }}</a>
  <span class="soft">
    {{ $prefix->vlan ? 'VLAN ' . $prefix->vlan->number . ', ' : '' }}relay {{ $prefix->gateway ?? 'none' }},
    {{ $scope->stage->value . ($beside->isEmpty() ? '' : ',') }}
    @if ($beside->isNotEmpty())
      one link with
      @foreach ($beside as $b)
        <a href="{{ at('lease.scope', $b->id) }}">{{ $b->name }}</a>
        <span class="mono">{{ $b->prefix->prefix() }}</span>{{ $loop->last ? '' : ',' }}
      @endforeach
    @endif
  </span>
  <span class="end row">
    {{ \App\View\Draw::chain($chain) }}
    @unless ($me->isBound())
      <a class="btn small" href="{{ at('watch') }}?object={{ $scope->id }}">History</a>
      <a class="btn small" href="{{ at('lease.exchange') }}?scope={{ $scope->id }}">What would a client get?</a>
    @endunless
  </span>
</header>
