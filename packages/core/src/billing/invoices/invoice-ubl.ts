import { Big } from 'big.js';
import { plainMoney, type Money } from '../../ground';
import { type DocumentKind, type InvoiceLine, type IssuedInvoice, type Party, type TaxGroup, shownName } from './invoice';

export const EN16931 = 'urn:cen.eu:en16931:2017';
const PROFILE = 'urn:fdc:peppol.eu:2017:poacc:billing:01:1.0';

/** Codes of UNTDID 1001. */
const TYPE_CODES: Readonly<Record<DocumentKind, string>> = { invoice: '380', 'credit note': '381' };

/** A node of the document: attributes as `name@attribute`, as the UBL writer takes them. */
export type UblNode = string | readonly UblNode[] | { readonly [name: string]: UblNode };

/** A document as UBL 2.1 after EN 16931: element names in the order of the schema; the writer turns those of a credit note. */
export function invoiceUbl(invoice: IssuedInvoice): { 'ubl:Invoice': UblNode } {
  const amount = (name: string, value: Money): Record<string, UblNode> => ({
    [name]: plainMoney(value),
    [`${name}@currencyID`]: value.currency,
  });
  const { totals } = invoice;
  return {
    'ubl:Invoice': {
      'cbc:CustomizationID': EN16931,
      'cbc:ProfileID': PROFILE,
      'cbc:ID': invoice.number,
      'cbc:IssueDate': invoice.issuedOn,
      'cbc:DueDate': invoice.dueOn,
      'cbc:InvoiceTypeCode': TYPE_CODES[invoice.kind],
      'cbc:DocumentCurrencyCode': invoice.currency,
      'cbc:BuyerReference': invoice.buyer.name,
      ...notes(invoice),
      ...orderReference(invoice),
      ...billingReference(invoice),
      'cac:AccountingSupplierParty': {
        'cac:Party': {
          ...party({ ...invoice.seller, name: shownName(invoice.seller) }),
          ...taxScheme(invoice.seller, (one) => [one]),
          ...contact(invoice.seller),
        },
      },
      'cac:AccountingCustomerParty': {
        'cac:Party': {
          ...party(invoice.buyer),
          ...taxScheme(invoice.buyer, (one) => one),
          'cac:PartyLegalEntity': { 'cbc:RegistrationName': invoice.buyer.name },
        },
      },
      'cac:Delivery': { 'cbc:ActualDeliveryDate': invoice.issuedOn },
      ...paymentMeans(invoice),
      'cac:TaxTotal': [
        { ...amount('cbc:TaxAmount', totals.tax), 'cac:TaxSubtotal': totals.groups.map((group) => subtotal(group, amount)) },
      ],
      'cac:LegalMonetaryTotal': {
        ...amount('cbc:LineExtensionAmount', totals.net),
        ...amount('cbc:TaxExclusiveAmount', totals.net),
        ...amount('cbc:TaxInclusiveAmount', totals.gross),
        ...amount('cbc:PayableAmount', totals.gross),
      },
      'cac:InvoiceLine': invoice.lines.map((line) => lineNode(line, amount)),
    },
  };
}

/** Why a credit note was given, and what an invoice of several is for. */
function notes({ corrects, billedFor }: IssuedInvoice): Record<string, UblNode> {
  const said = [...(corrects ? [corrects.reason] : []), ...(billedFor === null ? [] : [`For ${billedFor}`])];
  return said.length ? { 'cbc:Note': [said.join('. ')] } : {};
}

function orderReference({ purchaseOrder }: IssuedInvoice): Record<string, UblNode> {
  return purchaseOrder === null ? {} : { 'cac:OrderReference': { 'cbc:ID': purchaseOrder } };
}

/** The invoice that a credit note corrects. */
function billingReference({ corrects }: IssuedInvoice): Record<string, UblNode> {
  if (!corrects) return {};
  const { number, issuedOn } = corrects;
  return {
    'cac:BillingReference': [{ 'cac:InvoiceDocumentReference': { 'cbc:ID': number, 'cbc:IssueDate': issuedOn } }],
  };
}

function paymentMeans(invoice: IssuedInvoice): Record<string, UblNode> {
  if (invoice.kind === 'credit note') return {};
  const account = { 'cbc:ID': invoice.seller.account };
  return { 'cac:PaymentMeans': [{ 'cbc:PaymentMeansCode': '58', 'cbc:PaymentID': invoice.number, 'cac:PayeeFinancialAccount': account }] };
}

type Amount = (name: string, value: Money) => Record<string, UblNode>;

function party(of: Party): Record<string, UblNode> {
  return {
    'cbc:EndpointID': of.email,
    'cbc:EndpointID@schemeID': 'EM',
    'cac:PostalAddress': {
      'cbc:StreetName': of.street,
      'cbc:CityName': of.city,
      'cbc:PostalZone': of.postcode,
      'cac:Country': { 'cbc:IdentificationCode': of.country },
    },
  };
}

/** The schema takes several tax schemes of a seller, and one of a buyer. */
function taxScheme(of: Party, as: (one: UblNode) => UblNode): Record<string, UblNode> {
  return of.taxNumber ? { 'cac:PartyTaxScheme': as({ 'cbc:CompanyID': of.taxNumber, 'cac:TaxScheme': { 'cbc:ID': 'VAT' } }) } : {};
}

function contact(of: Party): Record<string, UblNode> {
  return {
    'cac:PartyLegalEntity': { 'cbc:RegistrationName': of.name },
    'cac:Contact': { 'cbc:Name': of.name, 'cbc:Telephone': of.phone, 'cbc:ElectronicMail': of.email },
  };
}

function subtotal(group: TaxGroup, amount: Amount): UblNode {
  return {
    ...amount('cbc:TaxableAmount', group.base),
    ...amount('cbc:TaxAmount', group.amount),
    'cac:TaxCategory': {
      'cbc:ID': group.tax.category,
      'cbc:Percent': group.tax.percent,
      ...(group.tax.category === 'E' ? { 'cbc:TaxExemptionReason': 'Exempt from tax' } : {}),
      'cac:TaxScheme': { 'cbc:ID': 'VAT' },
    },
  };
}

function lineNode(line: InvoiceLine, amount: Amount): UblNode {
  return {
    'cbc:ID': String(line.position),
    ...(line.details === null ? {} : { 'cbc:Note': line.details }),
    'cbc:InvoicedQuantity': line.quantity,
    'cbc:InvoicedQuantity@unitCode': line.unit,
    ...amount('cbc:LineExtensionAmount', line.net),
    'cac:Item': {
      'cbc:Name': line.description,
      'cac:ClassifiedTaxCategory': { 'cbc:ID': line.tax.category, 'cbc:Percent': line.tax.percent, 'cac:TaxScheme': { 'cbc:ID': 'VAT' } },
    },
    'cac:Price': priceNode(line),
  };
}

/** The writer takes prices of two places; a price with more is given exactly for a larger base quantity. */
function priceNode(line: InvoiceLine): UblNode {
  const places = line.unitPrice.split('.')[1]?.length ?? 0;
  const scale = 10 ** Math.max(0, places - 2);
  const base = (line.unit === 'MIN' ? 60 : 1) * scale;
  return {
    'cbc:PriceAmount': new Big(line.unitPrice).times(scale).toFixed(),
    'cbc:PriceAmount@currencyID': line.net.currency,
    ...(base === 1 ? {} : { 'cbc:BaseQuantity': String(base), 'cbc:BaseQuantity@unitCode': line.unit }),
  };
}
