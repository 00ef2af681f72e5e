<form id="begin" method="post" action="{{ at('act', 'start-draft') }}" class="row pad-all">
  @csrf
  <input type="hidden" name="then" value="commit">
  <label for="begin-name">Begin another</label>
  <input id="begin-name" name="name" maxlength="120" required placeholder="what it is, in a few words" class="grow">
  <button class="btn small">Begin it</button>
</form>
