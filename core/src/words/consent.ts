/** What the notice says to visitors that asks before what is not necessary runs. */
export interface ConsentWords {
  readonly heading: string;
  readonly lead: string;
  readonly measuring: string;
  readonly advertising: string;
  readonly none: string;
  readonly ticked: string;
  readonly all: string;
  readonly again: string;
}

/** By language (ISO 639-1). */
export const CONSENT_WORDS: Readonly<Record<string, ConsentWords>> = {
  en: {
    heading: 'Your choice',
    lead: 'This site works without the following. It is loaded only if you allow it, and you can change your mind at the foot of every page.',
    measuring: 'Measuring how pages are used',
    advertising: 'Advertising, here and elsewhere',
    none: 'Only what is necessary',
    ticked: 'Allow what is ticked',
    all: 'Allow all',
    again: 'Privacy choices',
  },
  nb: {
    heading: 'Ditt valg',
    lead: 'Nettstedet virker uten det følgende. Det lastes bare hvis du tillater det, og du kan ombestemme deg nederst på hver side.',
    measuring: 'Måle hvordan sidene brukes',
    advertising: 'Annonser, her og andre steder',
    none: 'Bare det nødvendige',
    ticked: 'Tillat det som er krysset av',
    all: 'Tillat alt',
    again: 'Personvernvalg',
  },
  da: {
    heading: 'Dit valg',
    lead: 'Webstedet virker uden det følgende. Det indlæses kun, hvis du tillader det, og du kan ændre dit valg nederst på hver side.',
    measuring: 'Måling af, hvordan siderne bruges',
    advertising: 'Annoncer, her og andre steder',
    none: 'Kun det nødvendige',
    ticked: 'Tillad det afkrydsede',
    all: 'Tillad alt',
    again: 'Privatlivsvalg',
  },
  sv: {
    heading: 'Ditt val',
    lead: 'Webbplatsen fungerar utan det följande. Det laddas bara om du tillåter det, och du kan ändra dig längst ned på varje sida.',
    measuring: 'Mätning av hur sidorna används',
    advertising: 'Annonser, här och på andra ställen',
    none: 'Bara det nödvändiga',
    ticked: 'Tillåt det som är ikryssat',
    all: 'Tillåt allt',
    again: 'Integritetsval',
  },
  de: {
    heading: 'Ihre Wahl',
    lead: 'Diese Website funktioniert ohne das Folgende. Es wird nur geladen, wenn Sie es erlauben; am Ende jeder Seite können Sie es sich anders überlegen.',
    measuring: 'Messen, wie Seiten genutzt werden',
    advertising: 'Werbung, hier und anderswo',
    none: 'Nur Notwendiges',
    ticked: 'Angekreuztes erlauben',
    all: 'Alles erlauben',
    again: 'Datenschutzwahl',
  },
  nl: {
    heading: 'Uw keuze',
    lead: 'Deze site werkt zonder het volgende. Het wordt alleen geladen als u het toestaat, en u kunt uw keuze onderaan elke pagina wijzigen.',
    measuring: 'Meten hoe pagina’s worden gebruikt',
    advertising: 'Advertenties, hier en elders',
    none: 'Alleen wat nodig is',
    ticked: 'Toestaan wat is aangevinkt',
    all: 'Alles toestaan',
    again: 'Privacykeuzes',
  },
  fr: {
    heading: 'Votre choix',
    lead: 'Ce site fonctionne sans ce qui suit. Rien n’en est chargé sans votre accord, et vous pouvez changer d’avis au bas de chaque page.',
    measuring: 'Mesure de l’utilisation des pages',
    advertising: 'Publicité, ici et ailleurs',
    none: 'Le nécessaire seulement',
    ticked: 'Autoriser ce qui est coché',
    all: 'Tout autoriser',
    again: 'Choix de confidentialité',
  },
  es: {
    heading: 'Su elección',
    lead: 'Este sitio funciona sin lo siguiente. Solo se carga si usted lo permite, y puede cambiar de opinión al pie de cada página.',
    measuring: 'Medir cómo se usan las páginas',
    advertising: 'Publicidad, aquí y en otros sitios',
    none: 'Solo lo necesario',
    ticked: 'Permitir lo marcado',
    all: 'Permitir todo',
    again: 'Opciones de privacidad',
  },
  it: {
    heading: 'La sua scelta',
    lead: 'Questo sito funziona senza quanto segue. Viene caricato solo se lo consente, e può cambiare idea in fondo a ogni pagina.',
    measuring: 'Misurare come si usano le pagine',
    advertising: 'Pubblicità, qui e altrove',
    none: 'Solo il necessario',
    ticked: 'Consenti ciò che è spuntato',
    all: 'Consenti tutto',
    again: 'Scelte sulla privacy',
  },
  pt: {
    heading: 'A sua escolha',
    lead: 'Este site funciona sem o que se segue. Só é carregado se o permitir, e pode mudar de ideias no fim de cada página.',
    measuring: 'Medir como as páginas são usadas',
    advertising: 'Publicidade, aqui e noutros sítios',
    none: 'Só o necessário',
    ticked: 'Permitir o assinalado',
    all: 'Permitir tudo',
    again: 'Opções de privacidade',
  },
  pl: {
    heading: 'Twój wybór',
    lead: 'Ta strona działa bez poniższych elementów. Wczytują się tylko za Twoją zgodą, a decyzję możesz zmienić na dole każdej strony.',
    measuring: 'Pomiar korzystania ze stron',
    advertising: 'Reklamy, tutaj i gdzie indziej',
    none: 'Tylko niezbędne',
    ticked: 'Zezwól na zaznaczone',
    all: 'Zezwól na wszystko',
    again: 'Ustawienia prywatności',
  },
  fi: {
    heading: 'Valintasi',
    lead: 'Sivusto toimii ilman seuraavia. Ne ladataan vain, jos sallit sen, ja voit muuttaa mielesi jokaisen sivun alareunassa.',
    measuring: 'Sivujen käytön mittaaminen',
    advertising: 'Mainonta täällä ja muualla',
    none: 'Vain välttämätön',
    ticked: 'Salli valitut',
    all: 'Salli kaikki',
    again: 'Yksityisyysvalinnat',
  },
};
