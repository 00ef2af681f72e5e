<x-layout title="What follows">
  <header class="title"><h1>{{ $title }}</h1></header>
  @if ($notice)
    <div class="notice bad" role="alert">@mark('warn')<span class="grow">{{ $notice }}</span></div>
  @endif
  <form id="{{ $form }}" method="post" action="/act/{{ $action }}">
    @csrf
    <input type="hidden" name="_form" value="{{ $form }}">
    @foreach ($seen as $object => $version)
      <input type="hidden" name="seen[{{ $object }}]" value="{{ $version }}">
    @endforeach
    @foreach ($inputs as $key => $value)
      @foreach ((array) $value as $k => $v)
        <input type="hidden" name="{{ is_array($value) ? $key.'['.$k.']' : $key }}" value="{{ is_scalar($v) ? $v : '' }}">
      @endforeach
    @endforeach
  </form>
  <div class="split two"><div>@include('act.follows')</div></div>
</x-layout>
