@include('errors.page', [
    'code' => 405,
    'head' => 'Not asked that way',
    'says' => 'This address takes another kind of request, such as a form that is sent.',
    'to' => '/',
    'label' => 'To your first page',
])
