<nav aria-label="Above">
  <ol class="path">
    @unless (auth()->user()->isBound())
      <li><a href="{{ at('ship') }}">Ship</a></li>
    @endunless
    <li><a href="{{ at('ship.drafts') }}">Drafts</a></li>
    <li aria-current="page">{{ $here }}</li>
  </ol>
</nav>
