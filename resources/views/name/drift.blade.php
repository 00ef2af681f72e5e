<x-layout :title="$zone->title().', drift'" verb="name">
  <nav aria-label="Above this zone"><ol class="path"><li><a href="/name">Zones</a></li><li><a href="/name/zone/{{ $zone->id }}">{{ $zone->title() }}</a></li><li><a href="/name/zone/{{ $zone->id }}/service">Service</a></li><li aria-current="page">Drift</li></ol></nav>
  <header class="title"><h1>What changed on {{ $primary->name }}</h1><span class="mono soft">{{ $zone->title() }}, {{ $zone->view->name }}</span></header>
  @if($problem)<div class="fault" role="alert"><h3>@mark('stop'){{ $primary->name }} could not be read</h3><p>{{ $problem }}</p></div>
  @elseif($act->come === [] && $act->gone === [])<section class="panel"><div class="empty"><h3>@mark('ok'){{ $primary->name }} serves the zone as planned</h3><p class="soft">Read as a whole, record by record; serial {{ $act->serial }}.</p></div></section>
  @else
  <div class="split two"><section class="panel"><header><h2>Against the plan</h2><span class="soft">serial there {{ $act->serial }}, here {{ $zone->serial }}</span></header>
    <ul class="diffs pad">@foreach(array_slice($act->come, 0, 300) as $line)<li><span class="op">+ there</span><span>{{ $line }}</span></li>@endforeach @foreach(array_slice($act->gone, 0, 300) as $line)<li><span class="op stopped">− gone there</span><span class="cutline">{{ $line }}</span></li>@endforeach</ul>@if(count($act->come) + count($act->gone) > 600)<p class="hint pad">and more; the first 300 of each are shown</p>@endif</section>
    <aside class="side">@if($may)<section class="follows" aria-label="What follows"><h2>What follows</h2><p class="cause">{{ count($act->come) }} records are only there, {{ count($act->gone) }} only in the plan</p>
      <form method="post" action="/name/zone/{{ $zone->id }}/drift">@csrf<div class="decide"><button class="btn main" data-key="main">Take into the plan <kbd>Ctrl Enter</kbd></button></div></form>
      <form method="post" action="/ship/server/{{ $primary->id }}">@csrf<input type="hidden" name="only[]" value="{{ $zone->id }}"><input type="hidden" name="deep" value="1"><div class="decide"><button class="btn stop">Undo it there: ship the plan</button></div></form></section>@endif</aside></div>
  @endif
</x-layout>
