{{-- Another layer-2 domain: $page, $domains, $domain --}}
<form class="end row" action="{{ $page }}">
  <label class="sr" for="domain">Layer-2 domain</label>
  <select id="domain" name="domain">
    @foreach ($domains as $id => $name)
      <option value="{{ $id }}" @selected($id === $domain?->id)>{{ $name }}</option>
    @endforeach
  </select>
  <button class="btn small">Show</button>
</form>
