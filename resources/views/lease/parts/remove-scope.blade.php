<form id="cutscope" class="row end" method="post" action="/act/remove-scope" hx-post="/act/remove-scope" hx-target="#follows-scopeform">
  @csrf
  <input type="hidden" name="_form" value="cutscope">
  <input type="hidden" name="scope" value="{{ $scope->id }}">
  <button class="btn stop small" name="then" value="preview">Remove the scope</button>
</form>
