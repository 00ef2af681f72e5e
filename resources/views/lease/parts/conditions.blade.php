{{-- Rows of a class: $form, $rows as they stand, $any. Rows whose value is blank say nothing. --}}
@php
  $typed = old('_form') === $form;
  $shown = max(3, count($rows) + 1);
@endphp
<fieldset class="field conditions">
  <legend>A client is in the class when</legend>
  <select name="holds" aria-label="How many rows must hold">
    <option value="all" @selected(!($typed ? old('holds') === 'any' : $any))>every row holds</option>
    <option value="any" @selected($typed ? old('holds') === 'any' : $any)>any row holds</option>
  </select>
  @for ($i = 0; $i < $shown; $i++)
    @php
      $row = $typed
          ? ['field' => old("fields.$i"), 'is' => old("comparisons.$i"), 'value' => old("values.$i")]
          : $rows[$i] ?? ['field' => 'vendor-class', 'is' => 'starts', 'value' => ''];
    @endphp
    <div class="condition">
      <select name="fields[]" aria-label="Field of row {{ $i + 1 }}">
        @foreach ($fields as $f)
          <option value="{{ $f->value }}" @selected($row['field'] === $f->value)>{{ $f->label() }}</option>
        @endforeach
      </select>
      <select name="comparisons[]" aria-label="Comparison of row {{ $i + 1 }}">
        @foreach ($comparisons as $c)
          <option value="{{ $c->value }}" @selected($row['is'] === $c->value)>{{ $c->label() }}</option>
        @endforeach
      </select>
      <input class="mono" name="values[]" value="{{ $row['value'] }}" aria-label="Value of row {{ $i + 1 }}" spellcheck="false"
        autocomplete="off">
    </div>
  @endfor
  <span class="hint">text as it is sent, letters as they are; bytes as 0x…; a MAC or the start of one; several values apart by commas for "is
    one of"</span>
</fieldset>
