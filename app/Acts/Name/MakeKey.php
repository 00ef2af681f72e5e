<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\TransferKey;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Wire\TsigAlgorithm;
use HarborPost\Core\Dns\Wire\TsigKey;

/** A key for transfers and updates is made; its secret is drawn unless one is given. */
final readonly class MakeKey extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 255)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Secret, 'Secret', most: 500)]
        public string $secret = '',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
        #[Field(Kind::Choice, 'Algorithm', choices: ['hmac-sha256', 'hmac-sha384', 'hmac-sha512'])]
        public string $algorithm = 'hmac-sha256',
    ) {
    }

    public function title(): string
    {
        return "Make the key $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.keys');
    }

    /** It holds a secret, so it is in no draft that others read. */
    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        try {
            $name = Name::parse(rtrim(trim($this->name), '.').'.')->lower();
            $algorithm = TsigAlgorithm::tryFrom($this->algorithm) ?? TsigAlgorithm::Sha256;
            $secret = trim($this->secret) === '' ? base64_encode(random_bytes($algorithm->length())) : trim($this->secret);
            $key = TsigKey::of($name, $secret, $algorithm);
        } catch (Malformed $e) {
            $ledger->refuse('bad-key', $e->getMessage(), standard: $e->standard, field: trim($this->secret) === '' ? 'name' : 'secret');
        }
        if ($name->isRoot() || (string) $name === 'control.') {
            $ledger->refuse('bad-key', 'A key needs a name of its own', standard: 'RFC 8945 §2', field: 'name');
        }
        if (TransferKey::query()->where('name', (string) $name)->exists()) {
            $ledger->refuse('name-taken', "\"{$this->name}\" exists already", field: 'name');
        }
        (
            new TransferKey([
                'id' => $this->id, 'name' => (string) $name, 'secret' => base64_encode($key->secret),
                'description' => $this->description, 'algorithm' => $algorithm,
            ])
        )->save();
        $ledger->later('Servers with a control endpoint learn it with their next shipment; who keeps another one gives it there');
    }
}
