{{-- Rows of choices: a fact, what is asked of it, and of what. --}}
<fieldset class="field choices">
  <legend>{{ $legend }}</legend>
  @for ($i = 1; $i <= \App\Domain\Watch\Choices::ROWS; $i++)
    @php
      $row = $chosen[$i - 1] ?? ['fact' => '', 'test' => 'is', 'value' => ''];
      $fault = old('_form') === $form ? $errors->first($name) : '';
    @endphp
    <span class="row">
      @if ($i > 1)
        <select name="{{ $name }}[{{ $i }}-or]" class="joins" aria-label="{{ $legend }}, {{ $i }}: beside the one before, or instead of it">
          <option value="0">and</option>
          <option value="1" @selected($row['or'] ?? false)>or</option>
        </select>
      @endif
      <select name="{{ $name }}[{{ $i }}-fact]" aria-label="{{ $legend }}, {{ $i }}: what">
        <option value="">{{ $i === 1 ? $any : '…' }}</option>
        @foreach ($known as $key => $fact)
          <option value="{{ $key }}" @selected($row['fact'] === $key)>{{ $fact->label }}</option>
        @endforeach
      </select>
      <select name="{{ $name }}[{{ $i }}-test]" aria-label="{{ $legend }}, {{ $i }}: how">
        @foreach (\App\Queries\Facts\Test::cases() as $test)
          <option value="{{ $test->value }}" @selected($row['test'] === $test->value)>{{ $test->words() }}</option>
        @endforeach
      </select>
      <input name="{{ $name }}[{{ $i }}-value]" value="{{ $row['value'] }}" size="10" maxlength="120" aria-label="{{ $legend }}, {{ $i }}: of what"
        @if ($fault !== '') aria-invalid="true" @endif>
    </span>
  @endfor
  @if ($fault !== '')
    <span class="hint bad">{{ $fault }}</span>
  @endif
</fieldset>
