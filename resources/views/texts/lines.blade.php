{{-- What changed, line by line: $lines --}}
<ul class="diffs">
  @foreach ($lines as $line)
    @if ($line === null)
      <li><span class="op soft">⋯</span><span></span></li>
    @else
      <li>
        <span @class(['op', 'stopped' => $line[0] === '-'])>{{ ['-' => '− gone', '+' => '+ new', ' ' => ''][$line[0]] }}</span>
        <span @class(['cutline' => $line[0] === '-'])>{{ $line[1] }}</span>
      </li>
    @endif
  @endforeach
</ul>
