{{-- What a server of a pair was last seen in; $s as PairList::seen() tells it. --}}
@if ($s === null || !$s['shipped'])
  <span class="open">not shipped yet</span>
@elseif ($s['problem'] !== null)
  @mark('stop') does not answer<span class="soft">{{ $s['state'] ? ', last in ' . $s['state']->value : '' }}</span>
@elseif ($s['state'] === null)
  @mark('stop') it does not have the pair
@else
  @mark($s['state'] === \HarborPost\Core\Exchange\Pair\PairState::Normal ? 'ok' : 'warn') <span class="mono">{{ $s['state']->value }}</span>
@endif
