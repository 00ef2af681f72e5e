@php
    $ledgers = $outcome->ledgers;
    $last = end($ledgers) ?: null;
    $own = count($ledgers) > $base ? $last : null;
    $written = $own?->written ?? [];
    $notes = $own === null ? $outcome->notes() : collect($own->notes)->sortBy(fn ($n) => ['blocked' => 0, 'warned' => 1, 'passed' => 2][$n->verdict])->values()->all();
    $count = fn (string $v) => count(array_filter($notes, fn ($n) => $n->verdict === $v));
    $warned = $count('warned') > 0;
@endphp
<section class="follows" data-form="{{ $form }}" aria-label="What follows">
  <h2>What follows</h2>
  <p class="cause">{{ $act->title() }}</p>
  <div class="scroll" tabindex="0" role="region" aria-label="What would be written">
  @if($outcome->trouble)<p class="wrong">@mark('stop')<span>{{ $outcome->trouble }}</span></p>@endif
  @if($own === null && $base > 0)<p class="wrong">@mark('stop')<span>Your draft does not hold any more. <a href="/ship/draft">Look at the draft</a></span></p>@endif
  @if($written !== [])
    <h3>Written @if(count($written) > 40)<span>{{ count($written) }} rows</span>@elseif($base > 0)<span>on top of your draft</span>@endif</h3>
    <ol class="wake">
      @foreach(array_slice($written, 0, 40) as $w)<li>@mark($w->op, ['add' => 'new', 'turn' => 'changed', 'cut' => 'removed'][$w->op])<span>{{ $w->noun === 'address' ? 'Address' : ucfirst($w->noun) }} <span class="mono">{{ $w->line }}</span>@if($w->op === 'turn')@foreach(array_slice(array_keys($w->before), 0, 5) as $k)<br><span class="soft">{{ str_replace('_', ' ', str_replace('_id', '', $k)) }} {{ is_scalar($w->before[$k]) && $w->before[$k] !== '' ? Str::limit((string) $w->before[$k], 40) : 'none' }} → {{ is_scalar($w->after[$k] ?? null) && $w->after[$k] !== '' ? Str::limit((string) $w->after[$k], 40) : 'none' }}</span>@endforeach @endif</span></li>@endforeach
      @if(count($written) > 40)<li><span></span><span>and {{ count($written) - 40 }} more rows</span></li>@endif
      @foreach($own->later as [$line])<li>@mark('wait')<span>{{ $line }}</span></li>@endforeach
    </ol>
  @elseif(! $outcome->blocked())
    <p class="soft">Nothing changes.</p>
  @endif
  @if($notes !== [])
    <h3>Checks <span>{{ collect(['blocked' => $count('blocked'), 'warned' => $count('warned'), 'passed' => $count('passed')])->filter()->map(fn ($n, $v) => "$n $v")->implode(', ') }}</span></h3>
    <ul class="checks">
      @foreach($notes as $n)<li @if($n->field) data-field="{{ $n->field }}" @endif data-verdict="{{ $n->verdict }}">@mark(['blocked' => 'stop', 'warned' => 'warn', 'passed' => 'ok'][$n->verdict], $n->verdict)<span>@if($n->verdict === 'passed'){{ $n->message }}@else<b>{{ rtrim($n->message, '.') }}.</b> <span class="why">{{ $n->why }}</span>@endif @if($n->standard)<span class="rfc">{{ $n->standard }}</span>@endif @if($n->link)<a href="{{ $n->link }}">Show it</a>@endif @if($n->offer && $n->field)<button type="button" class="btn small" data-offer="{{ $n->offer }}" data-into="{{ $n->field }}">Take {{ $n->offer }}</button>@endif</span></li>@endforeach
    </ul>
  @endif
  </div>
  @unless($outcome->blocked())
    @if($warned)<div class="field"><span><label for="reason-{{ $form }}">Why in spite of the warning (kept in the history)</label></span><input id="reason-{{ $form }}" name="reason" form="{{ $form }}" autocomplete="off"></div>@endif
    <div class="decide">
      @if($draftable)<button class="btn main" form="{{ $form }}" formaction="/act/{{ $action }}" name="then" value="draft" data-key="main">Add to draft <kbd>Ctrl Enter</kbd></button><button class="btn" form="{{ $form }}" formaction="/act/{{ $action }}" name="then" value="commit" data-key="commit">Commit now</button>
      @else<button class="btn main" form="{{ $form }}" formaction="/act/{{ $action }}" name="then" value="commit" data-key="main">{{ explode(' ', $act->title())[0] }} now <kbd>Ctrl Enter</kbd></button>@endif
    </div>
  @endunless
</section>
