<h3>As its servers say now</h3>
<ul class="lines">
  @forelse ($look->servers as $s)
    <li>
      @mark($s['ds'] === null ? 'stop' : 'ok')
      <b>{{ $s['server'] }}</b> {{ $s['words'] }}
    </li>
  @empty
    <li>@mark('stop') the parent is on no server</li>
  @endforelse
</ul>
