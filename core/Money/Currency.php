<?php

declare(strict_types=1);

namespace Lotrik\Money;

/** An ISO 4217 currency: its code and how many decimals its minor unit has. */
final readonly class Currency
{
    /** Active alphabetic codes by minor unit. Source: ISO 4217 list one, written down from memory. */
    private const BY_MINOR_UNIT = [
        0 => 'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX VND VUV XAF XOF XPF',
        2 => 'AED AFN ALL AMD ANG AOA ARS AUD AWG AZN BAM BBD BDT BGN BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CNY COP '
            .'CRC CUP CVE CZK DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GTQ GYD HKD HNL HTG HUF IDR ILS INR IRR '
            .'JMD KES KGS KHR KPW KYD KZT LAK LBP LKR LRD LSL MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK MXN MYR MZN NAD NGN '
            .'NIO NOK NPR NZD PAB PEN PGK PHP PKR PLN QAR RON RSD RUB SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD SSP STN SYP SZL '
            .'THB TJS TMT TOP TRY TTD TWD TZS UAH USD UYU UZS VES WST XCD YER ZAR ZMW',
        3 => 'BHD IQD JOD KWD LYD OMR TND',
    ];

    private function __construct(public string $code, public int $minorUnit) {}

    /** @throws \DomainException for a code that ISO 4217 does not list */
    public static function of(string $code): self
    {
        foreach (self::BY_MINOR_UNIT as $minorUnit => $codes) {
            if (preg_match('/^[A-Z]{3}$/', $code) && in_array($code, explode(' ', $codes), true)) {
                return new self($code, $minorUnit);
            }
        }

        throw new \DomainException("$code is no ISO 4217 currency code; EUR or USD would be");
    }

    public function is(self $other): bool
    {
        return $this->code === $other->code;
    }
}
