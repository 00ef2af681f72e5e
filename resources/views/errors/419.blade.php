@include('errors.page', [
    'code' => 419,
    'head' => 'The form was open too long',
    'says' => 'Nothing was written. Go back: your browser keeps what you typed; reload the page there and send it again.',
    'to' => '/',
    'label' => 'To your first page',
])
