{{-- A row that goes by one button, shown first. Wants act, field, of, word, name. --}}
<form id="cut{{ $of }}" method="post" action="/act/{{ $act }}" hx-post="/act/{{ $act }}" hx-target="#follows-window">
  @csrf
  <input type="hidden" name="_form" value="cut{{ $of }}">
  <input type="hidden" name="{{ $field }}" value="{{ $of }}">
  <button class="btn stop small" name="then" value="preview">{{ $word }}<span class="sr"> {{ $name }}</span></button>
</form>
