{{-- What the rows of an audit or a report are: chosen first, since all else depends on it. --}}
<form class="bar-line flat" action="{{ $page }}">
  @if ($row)
    <input type="hidden" name="{{ $form }}" value="{{ $row->id }}">
  @endif
  <div class="field"><span><label for="kind">{{ $label }}</label></span>
    <select id="kind" name="kind">
      @foreach ($kinds as $key => $text)
        <option value="{{ $key }}" @selected($kind->value === $key)>{{ $text }}</option>
      @endforeach
    </select>
  </div>
  <button class="btn small">Choose</button>
</form>
