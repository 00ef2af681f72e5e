@if ($problem)
  <p class="pad stopped">@mark('stop') {{ $problem }}</p>
@else
  @php
    $links = $chain->links();
    $verdict = $chain->verdict;
    $mark = ['secure' => 'ok', 'insecure' => 'warn', 'bogus' => 'stop', 'indeterminate' => 'wait'];
  @endphp
  <ol class="trust">
    @foreach ($links as $l)
      <li class="{{ $l['trust']->value }}">
        <span class="hint">{{ $l['anchor'] ? 'anchor' : 'named by its parent' }}{{ $l['ds'] === [] ? '' : ', DS ' . implode(', ', $l['ds']) }}</span>
        <b class="mono">{{ $l['zone'] }}</b>
        <span>@mark($mark[$l['trust']->value]) {{ $l['words'] }}</span>
        <span class="hint mono">{{ $l['keys'] === [] ? 'no keys' : implode(', ', $l['keys']) }}</span>
      </li>
    @endforeach
    <li class="{{ $verdict->trust->value }}">
      <span class="hint">the answer</span>
      <b class="mono">{{ $chain->question->name }} {{ $chain->question->type }}</b>
      <span>@mark($mark[$verdict->trust->value]) {{ $verdict->trust->value }}</span>
      <span class="hint">{{ $chain->server->name }} says {{ $chain->rcode->name }}{{ $chain->says ? ', proved (AD)' : ', without AD' }}</span>
    </li>
  </ol>
  <p class="pad">{{ ucfirst($verdict->words()) }}.</p>
@endif
