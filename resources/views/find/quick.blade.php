@if ($commands !== [] || $hits !== [])
  <ul class="quick">
    @foreach ($commands as $c)
      <li>
        @if ($c['link'])
          <a href="{{ $c['link'] }}" @if (mb_strtolower($c['words']) === mb_strtolower($q)) data-exact="{{ $q }}" @endif>
            <b>{{ $c['words'] }}</b>
            <span class="soft">{{ $c['hint'] }}</span>
          </a>
        @else
          <span class="row"><b>{{ $c['words'] }}</b> <span class="soft">{{ $c['hint'] }}</span></span>
        @endif
      </li>
    @endforeach
    @foreach ($hits as $h)
      @php
        $page = App\Pages\Pages::of($h['of']);
      @endphp
      @if ($page)
        <li>
          <a href="{{ $page }}" @if ($h['exact']) data-exact="{{ $q }}" @endif>
            <span class="kindhead">{{ $h['kind'] }}</span>
            <b class="mono">{{ $h['text'] }}</b>
            <span class="soft">{{ Str::limit($h['more'], 60) }}</span>
          </a>
        </li>
      @endif
    @endforeach
    <li class="all"><a href="{{ at('find') }}?q={{ urlencode($q) }}">Everything found for <b>{{ $q }}</b></a></li>
  </ul>
@elseif (mb_strlen($q) >= 2)
  <p class="quick pad">Nothing begins so yet. <kbd>Enter</kbd> says how it is read.</p>
@endif
