<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Pair;

/** What one server of a pair knows of one address. Times are seconds since 1970 by its own clock. */
final class Binding
{
    public function __construct(
        public readonly string $address,
        /** client key in hexadecimal */
        public string $client = '',
        public BindingState $state = BindingState::Available,
        /** the last end that any client was told, as far as this server knows */
        public int $ends = 0,
        /** until when the partner was asked to hold it for the client */
        public int $asked = 0,
        /** until when the partner holds the address for the client: what it acknowledged */
        public int $acked = 0,
        /** until when this server holds it for the client because the partner asked so */
        public int $heard = 0,
        /** when it last changed: never earlier than any change that it follows from */
        public int $changed = 0,
        /** counts this server's own changes; the partner acknowledges by it */
        public int $number = 0,
        /** the partner knows everything up to this one */
        public int $known = 0,
        /** that it ended was told and is not answered: it is nobody's until then */
        public bool $freeing = false,
        /** what the servers tell each other of the client besides, for people: as it was given */
        public string $about = '',
    ) {
    }

    /** Nobody has it and nobody waits for it: the next client begins anew, after everything that was. */
    public function becomeAvailable(int $changed): void
    {
        $this->client = $this->about = '';
        $this->state = BindingState::Available;
        $this->ends = $this->asked = $this->acked = $this->heard = 0;
        $this->changed = max($this->changed, $changed);
        $this->freeing = false;
    }

    /** A change made here and now, of which the partner does not know yet. */
    public function touch(int $now): void
    {
        $this->changed = max($now, $this->changed + 1);
        $this->number++;
    }

    public function isKnown(): bool
    {
        return $this->known >= $this->number;
    }

    /** @return array<string, int|string|bool> */
    public function toArray(): array
    {
        return [
            'address' => $this->address,
            'client' => $this->client,
            'state' => $this->state->value,
            'ends' => $this->ends,
            'asked' => $this->asked,
            'acked' => $this->acked,
            'heard' => $this->heard,
            'changed' => $this->changed,
            'number' => $this->number,
            'known' => $this->known,
            'freeing' => $this->freeing,
            'about' => $this->about,
        ];
    }

    /** @param  array<mixed>  $row */
    public static function fromArray(array $row): ?self
    {
        $text = static fn (string $key): string => is_string($row[$key] ?? null) ? $row[$key] : '';
        $number = static fn (string $key): int => is_int($row[$key] ?? null) ? $row[$key] : 0;
        $state = BindingState::tryFrom($text('state'));
        if ($state === null || filter_var($text('address'), FILTER_VALIDATE_IP) === false) {
            return null;
        }

        return new self(
            $text('address'),
            $text('client'),
            $state,
            $number('ends'),
            $number('asked'),
            $number('acked'),
            $number('heard'),
            $number('changed'),
            $number('number'),
            $number('known'),
            ($row['freeing'] ?? false) === true,
            $text('about'),
        );
    }
}
