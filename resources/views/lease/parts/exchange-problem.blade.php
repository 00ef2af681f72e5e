@if ($problem)
  <div class="fault" role="alert">
    <h3>@mark('stop'){{ $exchange && $exchange->steps !== [] ? 'The exchange stopped' : 'Nothing was sent' }}</h3>
    <p>{{ $problem }}</p>
    @if ($exchange)
      <p class="soft">A server that has no scope for the relay address stays silent too; see whether the scope is shipped to it.</p>
    @endif
  </div>
@endif
