@if ($fault !== null)
  <p class="pad stopped" role="status">@mark('stop') {{ $fault }}</p>
@endif
@if ($text !== null)
  <pre class="made tall" tabindex="0" aria-label="The text">{{ $text }}</pre>
@endif
