<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\V6;

use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\AssociationKind;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Leased;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\OptionList;
use HarborPost\Core\Dhcp\V6\StatusCode;
use HarborPost\Core\Net\Prefix;

/** How a server answers on one link (RFC 8415 §18.3): pure, so that what it will do can be computed and what it did be judged. */
final readonly class Responder
{
    /** Seconds that a declined address is held back. */
    public const DECLINED = 3600;

    public function __construct(private Duid $self, private Terms $terms, private Held $held, private int $now)
    {
    }

    /** @throws \HarborPost\Core\Bytes\MalformedBytes when an association cannot be read */
    public function answer(Message $asked): Answer
    {
        $fault = $asked->fault($this->self);
        if ($fault !== null) {
            return Answer::silent($fault);
        }
        $client = $asked->client();
        if ($client === null) {
            return $asked->type === MessageType::InformationRequest ? $this->inform($asked) : Answer::silent('it names no client');
        }

        return match ($asked->type) {
            MessageType::Solicit => $this->solicit($asked, $client),
            MessageType::Request => $this->assign($asked, $client, MessageType::Reply),
            MessageType::Renew, MessageType::Rebind => $this->extend($asked, $client),
            MessageType::Confirm => $this->confirm($asked),
            MessageType::Release, MessageType::Decline => $this->end($asked, $client),
            MessageType::InformationRequest => $this->inform($asked),
            default => Answer::silent("a client does not send {$asked->type->label()}"),
        };
    }

    private function solicit(Message $asked, Duid $client): Answer
    {
        $rapid = $this->terms->rapid && $asked->options->has(Code::RAPID_COMMIT);
        $answer = $this->assign($asked, $client, $rapid ? MessageType::Reply : MessageType::Advertise);

        return $rapid && $answer->message !== null
            ? Answer::with(
                new Message(MessageType::Reply, $asked->transaction, $answer->message->options->with(Code::RAPID_COMMIT, '')),
                $answer->grants,
            )
            : $answer;
    }

    /** Everything that the client wants, each part given or refused by its status (RFC 8415 §18.3.1, §18.3.2). */
    private function assign(Message $asked, Duid $client, MessageType $type): Answer
    {
        $parts = $grants = [];
        foreach ($asked->associations() as $wish) {
            [$part, $grant] = $this->part($client, $wish, $type);
            $parts[] = $part;
            $grants = $grant === null ? $grants : [...$grants, $grant];
        }

        return Answer::with($this->message($type, $asked, $parts), $type === MessageType::Reply ? $grants : []);
    }

    /** @return array{Association, ?Grant} */
    private function part(Duid $client, Association $wish, MessageType $type): array
    {
        $strange = array_filter($wish->leases, fn (Leased $l): bool => $l->net->first->bytes !== str_repeat("\0", 16)
            && ! $this->terms->isOnLink($l->net));
        if ($type === MessageType::Reply && $wish->kind === AssociationKind::Address && $strange !== []) {
            return [new Association($wish->kind, $wish->iaid, status: StatusCode::NotOnLink), null];
        }
        $choice = Choice::of($this->terms, $this->held, $client, $wish, $this->now);

        return $choice->net === null
            ? [new Association($wish->kind, $wish->iaid, status: $wish->kind->none()), null]
            : $this->given($client, $wish, $choice->net, $choice->why);
    }

    /** Renewed where it is the client's still (RFC 8415 §18.3.4, §18.3.5). */
    private function extend(Message $asked, Duid $client): Answer
    {
        $parts = $grants = [];
        foreach ($asked->associations() as $wish) {
            $own = array_values(array_filter(
                $this->held->current($wish->key($client), $this->now),
                fn (Prefix $net): bool => $this->terms->offers($net) || $this->terms->reservedFor($client, $wish->kind, $wish->iaid)
                    ?->net->equals($net) === true,
            ));
            if ($own !== []) {
                [$part, $grant] = $this->given($client, $wish, $own[0], 'it has it now');
                // What else it holds to be its own is over.
                $over = array_filter($wish->leases, static fn (Leased $l): bool => ! $l->net->equals($own[0]));
                $parts[] = new Association(
                    $part->kind,
                    $part->iaid,
                    [...$part->leases, ...array_map(static fn (Leased $l): Leased => new Leased($l->net), array_values($over))],
                    $part->t1,
                    $part->t2,
                );
                $grants[] = $grant;

                continue;
            }
            $off = array_values(array_filter($wish->leases, fn (Leased $l): bool => ! $this->terms->isOnLink($l->net)));
            if ($asked->type === MessageType::Renew) {
                $parts[] = $off === []
                    ? new Association($wish->kind, $wish->iaid, status: StatusCode::NoBinding)
                    : new Association($wish->kind, $wish->iaid, array_map(static fn (Leased $l): Leased => new Leased($l->net), $off));
            } elseif ($off !== []) {
                $parts[] = new Association($wish->kind, $wish->iaid, array_map(static fn (Leased $l): Leased => new Leased($l->net), $off));
            }
        }

        // Another server may know more of a client that asks everybody.
        return $parts === []
            ? Answer::silent('nothing of what it asks about is known here, and another server may know it')
            : Answer::with($this->message(MessageType::Reply, $asked, $parts), $grants);
    }

    private function confirm(Message $asked): Answer
    {
        $all = [];
        foreach ($asked->associations() as $one) {
            $all = $one->kind === AssociationKind::Prefix ? $all : [...$all, ...$one->leases];
        }
        if ($all === []) {
            return Answer::silent('it confirms no address');
        }
        $off = array_filter($all, fn (Leased $l): bool => ! $this->terms->link->contains($l->net));

        return Answer::with($this->message(MessageType::Reply, $asked, [], $off === [] ? StatusCode::Success : StatusCode::NotOnLink), []);
    }

    /** Given back, or found to be in use (RFC 8415 §18.3.7, §18.3.8). */
    private function end(Message $asked, Duid $client): Answer
    {
        $parts = $grants = [];
        $declines = $asked->type === MessageType::Decline;
        foreach ($asked->associations() as $wish) {
            $key = $wish->key($client);
            $known = false;
            foreach ($wish->leases as $lease) {
                if ($this->held->holder($lease->net, $this->now) !== $key || $declines && $wish->kind === AssociationKind::Prefix) {
                    continue;
                }
                $known = true;
                $grants[] = new Grant(
                    $key,
                    $client,
                    $wish->iaid,
                    $lease->net,
                    $declines ? 'declined' : 'released',
                    $declines ? self::DECLINED : 0,
                    0,
                    '',
                );
            }
            if (! $known) {
                $parts[] = new Association($wish->kind, $wish->iaid, status: StatusCode::NoBinding);
            }
        }

        return Answer::with($this->message(MessageType::Reply, $asked, $parts, StatusCode::Success), $grants);
    }

    private function inform(Message $asked): Answer
    {
        return $asked->associations() !== []
            ? Answer::silent('an INFORMATION-REQUEST with an association is to be dropped (RFC 8415 §16.12)')
            : Answer::with($this->message(MessageType::Reply, $asked, []), []);
    }

    /** @return array{Association, Grant} */
    private function given(Duid $client, Association $wish, Prefix $net, string $why): array
    {
        [$preferred, $valid] = [$this->terms->preferred, $this->terms->valid];
        // Recommended times (RFC 8415 §21.4): half and four fifths of the preferred life.
        $times = $preferred === Leased::INFINITE
            ? [Leased::INFINITE, Leased::INFINITE]
            : [intdiv($preferred, 2), intdiv($preferred * 4, 5)];

        return [
            new Association($wish->kind, $wish->iaid, [new Leased($net, $preferred, $valid)], ...$times),
            new Grant($wish->key($client), $client, $wish->iaid, $net, 'active', $valid, $preferred, $why),
        ];
    }

    /** @param  list<Association>  $parts */
    private function message(MessageType $type, Message $asked, array $parts, ?StatusCode $status = null): Message
    {
        $options = [];
        $client = $asked->client();
        if ($client !== null) {
            $options[] = [Code::CLIENT_ID, $client->bytes];
        }
        $options[] = [Code::SERVER_ID, $this->self->bytes];
        // How much it wants to be chosen is said where clients choose, whether they ask for it or not (RFC 8415 §18.3.9).
        if ($type === MessageType::Advertise && isset($this->terms->options[Code::PREFERENCE])) {
            $options[] = [Code::PREFERENCE, $this->terms->options[Code::PREFERENCE]];
        }
        foreach ($parts as $part) {
            $options[] = [$part->kind->value, $part->wire()];
        }
        if ($status !== null) {
            $options[] = [Code::STATUS, $status->with()];
        }
        $told = in_array($asked->type, [MessageType::Release, MessageType::Decline, MessageType::Confirm], true)
            ? []
            : $this->told($asked, $client, $parts);
        foreach ($told as $code => $payload) {
            $options[] = [$code, $payload];
        }

        return new Message($type, $asked->transaction, new OptionList($options));
    }

    /**
     * The options that it asks for, or all there are when it does not say.
     *
     * @param  list<Association>  $parts
     * @return array<int, string>
     */
    private function told(Message $asked, ?Duid $client, array $parts): array
    {
        $all = $this->terms->options;
        foreach ($client === null ? [] : $this->terms->reserved as $reserved) {
            if ($reserved->client->equals($client)) {
                $all = array_filter(array_replace($all, $reserved->options), is_string(...));
            }
        }
        unset($all[Code::PREFERENCE]);
        $wanted = $asked->asked();

        return $wanted === null ? $all : array_intersect_key($all, array_flip($wanted));
    }
}
