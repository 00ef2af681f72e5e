<nav aria-label="Above this prefix">
  <ol class="path">
    <li><a href="{{ at('plan.space', $prefix->space_id) }}">{{ $prefix->space->name }}</a></li>
    @foreach ($above as $a)
      <li><a href="{{ at('plan.prefix', $a->id) }}">{{ $a->name ?: $a->prefix() }} <span class="mono">/{{ $a->length }}</span></a></li>
    @endforeach
    <li aria-current="page">{{ $prefix->name ?: $prefix->prefix() }}</li>
  </ol>
</nav>
