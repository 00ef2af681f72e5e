<li>
  @mark($row->op, $row->word())
  <span>{{ ucfirst($row->noun) }} <span class="mono">{{ $row->line }}</span>
    @if ($what->called->home($row->noun, $row->within) !== '')
      <span class="soft">{{ $what->called->home($row->noun, $row->within) }}</span>
    @endif
    @if ($row->op === 'turn')
      @foreach ($row->before as $column => $before)
        <br><span class="soft">{{ $what->called->column($column) }} {{ $what->called->value($column, $before) }} →
          {{ $what->called->value($column, $row->after[$column] ?? null) }}</span>
      @endforeach
    @endif
  </span>
</li>
