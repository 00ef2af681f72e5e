{{-- Rules that ask for the agreement of others, the one that needs most first. --}}
@if ($needs !== [])
  <div class="needs" role="note">
    <p>@mark('wait') <b>It needs {{ $needs[0]->asks() }}.</b></p>
    <ul>
      @foreach ($needs as $rule)
        <li>{{ $rule->sentence() }}</li>
      @endforeach
    </ul>
  </div>
@endif
