<form method="post" action="{{ at('act', 'mark-favourite') }}">@csrf
  <input type="hidden" name="then" value="commit">
  <input type="hidden" name="prefix" value="{{ $prefix->id }}"><input type="hidden" name="stay" value="{{ request()->getRequestUri() }}">
  <input type="hidden" name="on" value="{{ $favourite ? '0' : '1' }}"><button class="btn small"
    aria-pressed="{{ $favourite ? 'true' : 'false' }}">{{ $favourite ? 'Favourite' : 'Make it a favourite' }}</button>
</form>
@unless (auth()->user()->isBound())
  <a class="btn small" href="{{ at('watch') }}?object={{ $prefix->id }}">History</a>
@endunless
