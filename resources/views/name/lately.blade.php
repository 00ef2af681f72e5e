@if ($lately === [])
  <p class="pad open">
    nothing that can be undone</p>
@else
  <table>
    <tbody>
      @foreach ($lately as $l)
        <tr>
          <td class="wrap">
            {{ \Illuminate\Support\Str::limit($l['title'], 80) }}{{ $l['count'] > 1 ? ' and ' . ($l['count'] - 1) . ' more' : '' }}<br><span
              class="hint">{{ $l['who'] }}, {{ \Carbon\CarbonImmutable::parse($l['at'])->diffForHumans() }}</span></td>
          <td>
            <form method="post" action="{{ at('act', 'undo-records') }}">@csrf
              <input type="hidden" name="act" value="{{ $l['act'] }}">
              <input type="hidden" name="zone" value="{{ $zone->id }}"><button class="btn small" name="then" value="preview"
                aria-label="Undo: {{ \Illuminate\Support\Str::limit($l['title'], 60) }}">Undo</button>
            </form>
          </td>
        </tr>
      @endforeach
    </tbody>
  </table>
@endif
