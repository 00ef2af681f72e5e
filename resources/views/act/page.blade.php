<x-layout title="What follows">
  <header class="title">
    <h1>{{ $title }}</h1>
  </header>
  @if ($notice)
    <div class="notice bad" role="alert">@mark('warn')<span class="grow">{{ $notice }}</span></div>
  @endif
  <x-act :id="$form" :action="$action" :seen="$seen">
    @foreach ($inputs as $key => $value)
      @foreach ((array) $value as $k => $v)
        <input type="hidden" name="{{ is_array($value) ? $key . '[' . $k . ']' : $key }}" value="{{ is_scalar($v) ? $v : '' }}">
      @endforeach
    @endforeach
  </x-act>
  <div class="split two">
    <div>
      <div id="follows-{{ $form }}" class="follows-slot">@include('act.follows')</div>
      @if ($outcome->blocked())
        <p class="row">
          <button class="btn small" form="{{ $form }}" name="then" value="preview">Show what follows again</button>
        </p>
      @endif
    </div>
  </div>
</x-layout>
